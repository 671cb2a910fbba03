import type { SurfaceId } from '../surface/index.ts';
import type { Id, Project } from './project.ts';

/** A tile as it is kept: its one value, or its texels; neither where it is empty. */
export interface KeptTile {
	readonly surface: SurfaceId;
	readonly index: number;
	readonly value: number | null;
	readonly texels: Uint8Array<ArrayBuffer> | null;
}

/** What must be kept since the last delta was taken. */
export interface Delta {
	readonly project: Project;
	readonly tiles: readonly KeptTile[];
}

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
