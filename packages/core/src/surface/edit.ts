import type { Heap, Kernels, Ptr } from '@eppu/kernels';
import { tileBytes } from './format.ts';
import { dropTile, type Surface, setTileState, settleTile, tileState, writeTexels } from './surface.ts';
import { emptyTile, hasTexels, type TileState } from './tile.ts';

/**
 * The other side of a change to a surface: for each tile touched, the state it had. The record owns those texels.
 * It is the undo step and says what is to be kept.
 */
export interface TileRecord {
	readonly surface: Surface;
	readonly tiles: Map<number, TileState>;
}

export const createRecord = (surface: Surface): TileRecord => ({ surface, tiles: new Map() });

/** Notes a tile's state in the record at its first touch; the surface's tile is empty from then on. */
export function takeBefore(record: TileRecord, index: number): TileState {
	const known = record.tiles.get(index);
	if (known) return known;
	const state = tileState(record.surface, index);
	record.tiles.set(index, state);
	setTileState(record.surface, index, emptyTile);
	return state;
}

/** The address of tile texels that may be written: the tile's own, or a new block with undefined content. */
export function freshTexels(heap: Heap, record: TileRecord, index: number): Ptr {
	takeBefore(record, index);
	const now = tileState(record.surface, index);
	return hasTexels(now.kind) ? now.data : heap.alloc(tileBytes(record.surface.format));
}

/** The address of tile texels that may be written, holding what the tile holds now. */
export function writableTexels(kernels: Kernels, record: TileRecord, index: number): Ptr {
	const first = !record.tiles.has(index);
	const now = first ? takeBefore(record, index) : tileState(record.surface, index);
	if (!first && hasTexels(now.kind)) return now.data;
	const at = kernels.heap.alloc(tileBytes(record.surface.format));
	writeTexels(kernels, record.surface.format, now, at);
	return at;
}

/** Puts written texels in place, settled to their kind. */
export function putTexels(kernels: Kernels, record: TileRecord, index: number, at: Ptr): void {
	setTileState(record.surface, index, settleTile(kernels, record.surface.format, at));
}

/** Puts a state with no texels of its own (empty or one value) in place. */
export function putState(heap: Heap, record: TileRecord, index: number, state: TileState): void {
	takeBefore(record, index);
	dropTile(heap, record.surface.format, tileState(record.surface, index));
	setTileState(record.surface, index, state);
}

/** Exchanges what the record holds with what the surface shows: undo, and again: redo. */
export function swapRecord(record: TileRecord): void {
	for (const [index, state] of record.tiles) {
		record.tiles.set(index, tileState(record.surface, index));
		setTileState(record.surface, index, state);
	}
}

/** Gives back what a record holds. */
export function dropRecord(heap: Heap, record: TileRecord): void {
	for (const state of record.tiles.values()) dropTile(heap, record.surface.format, state);
	record.tiles.clear();
}

/** Bytes of texels that a record keeps alive. */
export function recordBytes(record: TileRecord): number {
	let sum = 0;
	for (const state of record.tiles.values()) if (hasTexels(state.kind)) sum += tileBytes(record.surface.format);
	return sum;
}

/** A new surface with the same content under another id. */
export function copySurface(heap: Heap, from: Surface, id: string): Surface {
	const to: Surface = { ...from, id, kinds: from.kinds.slice(), data: from.data.slice() };
	const bytes = tileBytes(from.format);
	for (let i = 0; i < to.kinds.length; i++) {
		const state = tileState(from, i);
		if (!hasTexels(state.kind)) continue;
		const at = heap.alloc(bytes);
		heap.u8.copyWithin(at, state.data, state.data + bytes);
		to.data[i] = at;
	}
	return to;
}

/** Whether every tile of a record shows what it showed before. */
export function sameAsBefore({ u8 }: Heap, { surface, tiles }: TileRecord): boolean {
	const bytes = tileBytes(surface.format);
	for (const [index, before] of tiles) {
		const now = tileState(surface, index);
		if (before.kind !== now.kind) return false;
		if (!hasTexels(now.kind)) {
			if (before.data !== now.data) return false;
			continue;
		}
		for (let i = 0; i < bytes; i++) if (u8[before.data + i] !== u8[now.data + i]) return false;
	}
	return true;
}
