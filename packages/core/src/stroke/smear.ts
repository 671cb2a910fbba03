import type { Kernels, Ptr } from '@eppu/kernels';
import { type Coverage, clearCoverage, coverageTile, type Dab, type Target, takeTouched } from '../projection/index.ts';
import {
	Kind,
	type Surface,
	setTileState,
	TILE_TEXELS,
	type TileRecord,
	tileBytes,
	tileState,
	writableTexels,
} from '../surface/index.ts';
import { writeColors } from './change.ts';

/** Cells along a side of what a smearing tip carries, at the most. */
const MOST_CELLS = 96;
const CELL_BYTES = 20;
const RECORD_BYTES = 16;

/** What one target's tip carries, in the kernels' memory (assembly/smear.ts), and room for the next. */
interface Carried {
	readonly cells: number;
	/** Target units a cell. */
	readonly step: number;
	now: Ptr;
	next: Ptr;
	full: boolean;
}

/** Paint pulled along: each dab lays what the dabs before it picked up, and picks up what it finds. */
export interface Smear {
	/** One dab on each target; returns the tiles it changed. */
	dab(dab: Dab): number[];
	/** Gives its memory back. */
	drop(): void;
}

/**
 * Smears on a surface. Pick-up and lay go by places in the target's space, so on a model paint is pulled over seams.
 * `gate` is the address of a tile's weights (A8), 0 where all is free.
 */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: what a tip carries is one state, and its memory is freed where it is taken.
export function createSmear(
	kernels: Kernels,
	surface: Surface,
	coverage: Coverage,
	targets: readonly Target[],
	record: TileRecord,
	lockAlpha: boolean,
	gate: (tile: number) => Ptr,
): Smear {
	const { heap, run } = kernels;
	const carried = new Map<Target, Carried>();
	const texelsOf = new Map<number, Ptr>();
	let records = { u32: new Uint32Array(4 * 4096), f32: new Float32Array(0) };
	records.f32 = new Float32Array(records.u32.buffer);
	let room: { at: Ptr; bytes: number } = { at: 0, bytes: 0 };

	const isMask = surface.format === 'mask';
	/** The address of a tile's colours: its own texels, or a mask's tones as opaque greys. */
	const tileAt = (tile: number): Ptr => {
		const known = texelsOf.get(tile);
		if (known !== undefined) return known;
		const own = writableTexels(kernels, record, tile);
		// Texels of any kind are read as mixed; they are settled when the stroke ends.
		setTileState(surface, tile, { kind: Kind.mixed, data: own });
		const at = isMask ? heap.alloc(tileBytes('color')) : own;
		if (isMask) writeColors(kernels, surface, tileState(surface, tile), at);
		texelsOf.set(tile, at);
		return at;
	};
	/** What was done to a mask's greys becomes its tones. */
	const tonesBack = (tile: number): void => {
		const [from, to] = [texelsOf.get(tile), tileState(surface, tile).data];
		if (from === undefined) return;
		const { u8 } = heap;
		for (let i = 0; i < TILE_TEXELS; i++) u8[to + i] = u8[from + i * 4] as number;
	};
	const carriedOf = (target: Target, radius: number): Carried => {
		let found = carried.get(target);
		if (!found) {
			const reach = Math.max(2, radius) + 1;
			const cells = Math.min(MOST_CELLS, 2 * Math.ceil(reach));
			const bytes = cells * cells * CELL_BYTES;
			found = { cells, step: (2 * reach) / cells, now: heap.alloc(bytes), next: heap.alloc(bytes), full: false };
			carried.set(target, found);
		}
		return found;
	};
	/** Records of the texels around a dab, in the kernels' memory; returns how many. */
	const gather = (target: Target, dab: Dab, reach: number): number => {
		let count = 0;
		let tile = -1;
		let texels = 0;
		let covers = 0;
		target.around(coverage, dab.x, dab.y, reach, (index, x, y) => {
			const here = Math.floor(index / TILE_TEXELS);
			if (here !== tile) {
				tile = here;
				texels = tileAt(tile);
				covers = coverageTile(coverage, tile);
			}
			if (count * 4 === records.u32.length) {
				const more = new Uint32Array(records.u32.length * 2);
				more.set(records.u32);
				records = { u32: more, f32: new Float32Array(more.buffer) };
			}
			const place = index % TILE_TEXELS;
			records.u32[count * 4] = texels + place * 4;
			records.f32[count * 4 + 1] = x - dab.x;
			records.f32[count * 4 + 2] = y - dab.y;
			records.u32[count * 4 + 3] = covers + place * 2;
			count++;
		});
		if (count * RECORD_BYTES > room.bytes) {
			if (room.bytes) heap.free(room.at, room.bytes);
			const bytes = count * RECORD_BYTES * 2;
			room = { at: heap.alloc(bytes), bytes };
		}
		heap.u32.set(records.u32.subarray(0, count * 4), room.at >> 2);
		return count;
	};

	return {
		dab(dab) {
			const changed = new Set<number>();
			for (const target of targets) {
				const tip = carriedOf(target, dab.radius);
				// The dab's own coverage weighs what is laid; the strength is how much stays on the tip.
				if (tip.full) target.dab(coverage, { ...dab, strength: 1, color: null }, false);
				const touched = takeTouched(kernels, coverage);
				for (const tile of touched) {
					changed.add(tile);
					const held = gate(tile);
					if (held) run.gateCoverage(coverageTile(coverage, tile), held, coverageTile(coverage, tile));
				}
				const reach = Math.max((tip.cells * tip.step) / 2, dab.picture ? dab.radius * Math.SQRT2 : 0);
				const count = gather(target, dab, reach);
				const lock = lockAlpha ? 1 : 0;
				run.smearDab(room.at, count, tip.cells, tip.step, tip.full ? tip.now : 0, tip.next, dab.strength, lock);
				[tip.now, tip.next] = [tip.next, tip.now];
				tip.full = true;
				clearCoverage(kernels, coverage, touched);
			}
			if (isMask) for (const tile of changed) tonesBack(tile);
			return [...changed];
		},
		drop() {
			for (const { cells, now, next } of carried.values()) {
				heap.free(now, cells * cells * CELL_BYTES);
				heap.free(next, cells * cells * CELL_BYTES);
			}
			if (room.bytes) heap.free(room.at, room.bytes);
			if (isMask) for (const at of texelsOf.values()) heap.free(at, tileBytes('color'));
		},
	};
}
