import type { Kernels } from '@eppu/kernels';
import type { LaidMesh } from '../mesh/index.ts';
import type { Field } from '../recipe/index.ts';

/** Tiles that are remembered of a mesh in one kind of strokes: where the first of their planes stands. */
export type LaidTiles = Map<string, Field>;

interface Kind {
	readonly tiles: LaidTiles;
	/** Bytes of a tile. */
	readonly bytes: number;
}

/** 80 KB each. */
const MOST = 640;

/** In each kernels' memory, by mesh and strokes; those that were asked for last stand last. */
const remembered = new WeakMap<Kernels, Map<string, Kind>>();
/** A mesh is known by a number: what was laid of one that is gone makes room for others, as all else does. */
const numbers = new WeakMap<LaidMesh, number>();
let last = 0;

/** Tiles of `bytes` each that are remembered of a mesh in strokes that `says` tells apart. */
export function laidOf(kernels: Kernels, mesh: LaidMesh, says: string, bytes: number): LaidTiles {
	let all = remembered.get(kernels);
	if (!all) remembered.set(kernels, (all = new Map()));
	let number = numbers.get(mesh);
	if (number === undefined) numbers.set(mesh, (number = ++last));
	const key = `${number} ${says}`;
	const kind = all.get(key) ?? { tiles: new Map(), bytes };
	all.delete(key);
	all.set(key, kind);
	return kind.tiles;
}

/**
 * Remembers what `lay` puts at a place in the kernels' memory; others are forgotten for it where there are too many, but
 * none of its own kind: those are due again. Null, with nothing laid, where there is no room.
 */
export function rememberLaid(
	kernels: Kernels,
	tiles: LaidTiles,
	tile: string,
	bytes: number,
	lay: (at: Field) => void,
): Field | null {
	const all = remembered.get(kernels) ?? new Map<string, Kind>();
	let count = [...all.values()].reduce((sum, each) => sum + each.tiles.size, 0);
	for (const [key, kind] of all) {
		if (count < MOST || kind.tiles === tiles) break;
		count -= kind.tiles.size;
		for (const at of kind.tiles.values()) kernels.heap.free(at, kind.bytes);
		all.delete(key);
	}
	if (count >= MOST) return null;
	const at = kernels.heap.alloc(bytes);
	try {
		lay(at);
	} catch (error) {
		kernels.heap.free(at, bytes);
		throw error;
	}
	tiles.set(tile, at);
	return at;
}
