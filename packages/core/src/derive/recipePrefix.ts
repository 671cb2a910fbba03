import type { Recipe } from '../recipe/index.ts';
import type { SurfaceId } from '../surface/index.ts';
import type { PrefixFields } from './loan.ts';

/**
 * What the steps before the one that is being changed make, tile by tile: a dial that is dragged begins from there. One
 * recipe at a time is remembered.
 */
export interface Prefix {
	readonly mask: SurfaceId;
	/** Steps that are done. */
	readonly count: number;
	readonly key: string;
	readonly fields: Map<string, Float32Array>;
	/** Places of each tile. */
	readonly places: Map<number, Set<string>>;
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
	store.current = createPrefix(mask, count, key);
}

export const createPrefix = (mask: SurfaceId, count: number, key: string): Prefix => ({
	mask,
	count,
	key,
	fields: new Map(),
	places: new Map(),
	bytes: 0,
});

/** Remembers a field of a tile, where there is room. */
export function rememberField(prefix: Prefix, tile: number, place: string, field: Float32Array): void {
	if (prefix.fields.has(place) || prefix.bytes + field.byteLength > MOST_BYTES) return;
	prefix.fields.set(place, field);
	prefix.places.set(tile, (prefix.places.get(tile) ?? new Set()).add(place));
	prefix.bytes += field.byteLength;
}

/** The remembered fields of tiles. */
export const fieldsOf = ({ fields, places }: Prefix, tiles: readonly number[]): PrefixFields =>
	tiles.flatMap((tile) =>
		[...(places.get(tile) ?? [])].map((place) => [tile, place, fields.get(place) as Float32Array] as const),
	);

/** The remembered field of a place in a tile, made where it is not remembered yet. */
export function prefixField(prefix: Prefix, tile: number, place: string, make: () => Float32Array): Float32Array {
	const known = prefix.fields.get(place);
	if (known) return known;
	const made = make();
	rememberField(prefix, tile, place, made);
	return made;
}
