import type { Kernels, Ptr } from '@eppu/kernels';
import {
	createRecord,
	hasTexels,
	Kind,
	putState,
	putTexels,
	type Surface,
	TILE_TEXELS,
	type TileRecord,
	tileState,
	writableTexels,
} from '../surface/index.ts';

/** Black to white and back, in every texel. */
export function invertMask(kernels: Kernels, mask: Surface): TileRecord {
	const record = createRecord(mask);
	for (let tile = 0; tile < mask.kinds.length; tile++) {
		const { kind, data } = tileState(mask, tile);
		if (kind === Kind.empty) putState(kernels.heap, record, tile, { kind: Kind.uniform, data: 255 });
		else if (kind === Kind.uniform)
			putState(kernels.heap, record, tile, data === 255 ? { kind: Kind.empty, data: 0 } : { kind, data: 255 - data });
		else {
			const at = writableTexels(kernels, record, tile);
			const texels = kernels.heap.u8.subarray(at, at + TILE_TEXELS);
			for (let i = 0; i < TILE_TEXELS; i++) texels[i] = 255 - (texels[i] as number);
			putTexels(kernels, record, tile, at);
		}
	}
	return record;
}

/** One value, 0..255, in every texel. */
export function fillMask(kernels: Kernels, mask: Surface, value: number): TileRecord {
	const record = createRecord(mask);
	for (let tile = 0; tile < mask.kinds.length; tile++)
		putState(kernels.heap, record, tile, value ? { kind: Kind.uniform, data: value } : { kind: Kind.empty, data: 0 });
	return record;
}

/** A layer's alpha times its mask: what the mask hid is gone for good. */
export function maskIntoAlpha(kernels: Kernels, color: Surface, mask: Surface): TileRecord {
	const record = createRecord(color);
	for (let tile = 0; tile < color.kinds.length; tile++) {
		const { kind, data } = tileState(mask, tile);
		if (color.kinds[tile] === Kind.empty || (kind === Kind.uniform && data === 255)) continue;
		if (kind === Kind.empty) {
			putState(kernels.heap, record, tile, { kind: Kind.empty, data: 0 });
			continue;
		}
		const at = writableTexels(kernels, record, tile);
		const { u8 } = kernels.heap;
		for (let i = 0; i < TILE_TEXELS; i++) {
			const m = kind === Kind.uniform ? data : (u8[data + i] as number);
			u8[at + i * 4 + 3] = Math.round(((u8[at + i * 4 + 3] as number) * m) / 255);
		}
		putTexels(kernels, record, tile, at);
	}
	return record;
}

/** A mask's tile as something to look at: RGBA8 greys at `out`. */
export function greyTile({ heap }: Kernels, tones: Surface, tile: number, out: Ptr): void {
	const { kind, data } = tileState(tones, tile);
	const words = heap.u32;
	// Of two bytes the upper one is seen.
	const [bytes, upper] = tones.format === 'deep' ? [2, 1] : [1, 0];
	for (let i = 0; i < TILE_TEXELS; i++) {
		const v = hasTexels(kind) ? (heap.u8[data + i * bytes + upper] as number) : data >> (8 * upper);
		words[(out >> 2) + i] = (0xff000000 | (v << 16) | (v << 8) | v) >>> 0;
	}
}
