import type { Recipe } from '../recipe/index.ts';
import type { SurfaceId } from '../surface/index.ts';

/**
 * What the steps before the one that is being changed make, tile by tile: a dial that is dragged begins from there. One
 * recipe at a time is remembered.
 */
export interface Prefix {
	readonly mask: SurfaceId;
	/** Steps that are done. */
	readonly count: number;
	readonly key: string;
	readonly tiles: Map<string, Float32Array>;
	bytes: number;
}

export interface PrefixStore {
	current: Prefix | null;
}

const MOST_BYTES = 96 * 1024 * 1024;

/** Begins to remember, or goes on, when a recipe changes; `says` is all beside the steps that its tones depend on. */
export function notePrefix(store: PrefixStore, mask: SurfaceId, before: Recipe, now: Recipe, says: string): void {
	let count = 0;
	while (count < now.length && JSON.stringify(before[count]) === JSON.stringify(now[count])) count++;
	if (count === 0 || count === now.length) {
		if (store.current?.mask === mask && count === 0) store.current = null;
		return;
	}
	const key = JSON.stringify([now.slice(0, count), says]);
	if (store.current?.mask === mask && store.current.key === key) return;
	store.current = { mask, count, key, tiles: new Map(), bytes: 0 };
}

/** The remembered field of a tile, made where it is not remembered yet. */
export function prefixField(prefix: Prefix, tile: string, make: () => Float32Array): Float32Array {
	const known = prefix.tiles.get(tile);
	if (known) return known;
	const made = make();
	if (prefix.bytes + made.byteLength <= MOST_BYTES) {
		prefix.tiles.set(tile, made);
		prefix.bytes += made.byteLength;
	}
	return made;
}
