import type { Kernels } from '@eppu/kernels';
import {
	hasTexels,
	Kind,
	putTexels,
	readTexels,
	stateTexels,
	TILE_TEXELS,
	type TileRecord,
	tileBytes,
	tileState,
	writableTexels,
} from '../surface/index.ts';
import type { PixelColors } from './colors.ts';

/**
 * Makes whole texels of what a record changed: there or not there, and of no colour but those that may be, or that were in
 * the same tile before; a mask's hide all or nothing. What was soft before and was not changed stays, but where `all` is
 * to be so, whatever was.
 */
export function hardenRecord(kernels: Kernels, record: TileRecord, colors: PixelColors, all = false): void {
	const { heap } = kernels;
	const { surface } = record;
	for (const [tile, before] of record.tiles) {
		const now = tileState(surface, tile);
		if (now.kind === Kind.empty) continue;
		const was = all ? new Uint8Array(tileBytes(surface.format)) : stateTexels(heap, surface.format, before);
		const next = readTexels(heap, surface, tile);
		const changed = surface.format === 'mask' ? hardMask(was, next) : hardColors(was, next, colors);
		if (!changed) continue;
		const at = hasTexels(now.kind) ? now.data : writableTexels(kernels, record, tile);
		heap.u8.set(next, at);
		putTexels(kernels, record, tile, at);
	}
}

function hardMask(was: Uint8Array, next: Uint8Array): boolean {
	let changed = false;
	for (let i = 0; i < next.length; i++) {
		const v = next[i] as number;
		if (v === was[i] || v === 0 || v === 255) continue;
		next[i] = v >= 128 ? 255 : 0;
		changed = true;
	}
	return changed;
}

function hardColors(was: Uint8Array, next: Uint8Array, colors: PixelColors): boolean {
	const [old, now] = [new Uint32Array(was.buffer, was.byteOffset), new Uint32Array(next.buffer, next.byteOffset)];
	let known: Set<number> | null = null;
	let changed = false;
	for (let i = 0; i < TILE_TEXELS; i++) {
		const word = now[i] as number;
		if (word === old[i] || word === 0) continue;
		const color = word & 0xffffff;
		let hard = 0;
		if (word >>> 24 >= 128) {
			known ??= new Set(Array.from(old, (each) => (each >>> 24 ? each & 0xffffff : -1)));
			hard = ((known.has(color) ? color : colors.nearest(color)) | 0xff000000) >>> 0;
		}
		if (hard === word) continue;
		now[i] = hard;
		changed = true;
	}
	return changed;
}

/** Coverages of 16 bits as all or nothing. */
export function hardenCoverage({ u16 }: Kernels['heap'], from: number, to: number): void {
	const [a, b] = [from >> 1, to >> 1];
	for (let i = 0; i < TILE_TEXELS; i++) u16[b + i] = (u16[a + i] as number) >= 32768 ? 65535 : 0;
}
