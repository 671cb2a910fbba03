import type { Id } from '../document/index.ts';

/** Tiles of sheets whose composite is not what it was. */
export type Dirty = ReadonlyMap<Id, readonly number[]>;

export const none: Dirty = new Map();

/** What any of several changes made dirty. */
export function merged(list: readonly Dirty[]): Dirty {
	const out = new Map<Id, number[]>();
	for (const dirty of list)
		for (const [sheet, found] of dirty) out.set(sheet, [...new Set([...(out.get(sheet) ?? []), ...found])]);
	return out;
}
