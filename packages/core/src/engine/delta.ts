import type { Heap } from '@eppu/kernels';
import { type Project, surfacesOfProject } from '../document/index.ts';
import {
	hasTexels,
	Kind,
	type Surface,
	type SurfaceId,
	stateTexels,
	type TileRecord,
	type TileState,
	tileState,
} from '../surface/index.ts';

/** A tile as it is kept: its one value, or its texels; neither where it is empty. */
export interface KeptTile {
	readonly surface: SurfaceId;
	readonly index: number;
	/** So many tiles from `index` on have the value; one where it is left out. */
	readonly count?: number;
	readonly value: number | null;
	readonly texels: Uint8Array<ArrayBuffer> | null;
}

/** What must be kept since the last delta was taken. */
export interface Delta {
	readonly project: Project;
	readonly tiles: readonly KeptTile[];
}

/** A tile's state as it is kept. */
export const keptTile = (heap: Heap, { id, format }: Surface, index: number, state: TileState): KeptTile => ({
	surface: id,
	index,
	value: hasTexels(state.kind) ? null : state.kind === Kind.uniform ? state.data : 0,
	texels: hasTexels(state.kind) ? stateTexels(heap, format, state) : null,
});

/** All of a surface: one value for all tiles, and then those that differ from it. */
export function keptSurface(
	heap: Heap,
	surface: Surface,
	stateAt: (index: number) => TileState = (index) => tileState(surface, index),
): KeptTile[] {
	const states = Array.from({ length: surface.kinds.length }, (_, index) => stateAt(index));
	const value = usualValue(states);
	const list: KeptTile[] = [{ surface: surface.id, index: 0, count: states.length, value, texels: null }];
	states.forEach((state, index) => {
		if (hasTexels(state.kind) || (state.kind === Kind.empty ? 0 : state.data) !== value)
			list.push(keptTile(heap, surface, index, state));
	});
	return list;
}

/** The value that most tiles of a list have, 0 being empty. */
function usualValue(states: readonly TileState[]): number {
	const counts = new Map<number, number>();
	for (const { kind, data } of states)
		if (!hasTexels(kind)) {
			const value = kind === Kind.empty ? 0 : data;
			counts.set(value, (counts.get(value) ?? 0) + 1);
		}
	return [...counts].reduce((best, each) => (each[1] > best[1] ? each : best), [0, 0])[0];
}

/**
 * What is to be kept of the surfaces that the project names: of `wholes` one value for all and then what differs from
 * it, of `changed` those tiles. Tiles of a stroke that is being made (`stroked`) are as they were before it.
 */
export function deltaTiles(
	heap: Heap,
	project: Project,
	surfaces: ReadonlyMap<SurfaceId, Surface>,
	changed: ReadonlyMap<SurfaceId, ReadonlySet<number>>,
	wholes: ReadonlySet<SurfaceId>,
	stroked: readonly TileRecord[],
): KeptTile[] {
	const before = new Map(stroked.map((record) => [record.surface.id, record.tiles]));
	const list: KeptTile[] = [];
	for (const { id } of surfacesOfProject(project)) {
		const surface = surfaces.get(id);
		if (!surface) continue;
		const stateAt = (index: number): TileState => before.get(id)?.get(index) ?? tileState(surface, index);
		if (wholes.has(id)) for (const tile of keptSurface(heap, surface, stateAt)) list.push(tile);
		else for (const index of changed.get(id) ?? []) list.push(keptTile(heap, surface, index, stateAt(index)));
	}
	return list;
}
