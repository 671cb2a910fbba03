import type { Kernels } from '@eppu/kernels';
import { type NeededSurface, type Project, type Sheet, surfacesOfProject } from '../document/index.ts';
import {
	clearSurface,
	copySurface,
	createSurface,
	dropTile,
	Kind,
	type Surface,
	type SurfaceId,
	setTileState,
	settleTile,
	type TileRecord,
	tileBytes,
	tileState,
} from '../surface/index.ts';
import { type Delta, deltaTiles, type KeptTile } from './delta.ts';

/** The surfaces of an open project, and which of their tiles are not kept yet. Nobody else owns either. */
export interface Surfaces {
	/** All surfaces; those that are computed put themselves in here too (derive/derivation.ts). */
	readonly map: Map<SurfaceId, Surface>;
	/** Makes what a command needs where it is not there. */
	begin(needed: NeededSurface, sheet: Sheet): void;
	/** A surface that was made and filled elsewhere. */
	add(surface: Surface): void;
	/** Notes tiles as to be kept. */
	touch(record: TileRecord): void;
	/** Notes all of a surface as to be kept: it is new, or came back. */
	touchAll(id: SurfaceId): void;
	/** Lets go of surfaces that nothing names any more. */
	forget(ids: Iterable<SurfaceId>): void;
	/** What is to be kept since the last call, or null; tiles of a stroke that is being made are as they were before it. */
	takeDelta(project: Project, stroked: readonly TileRecord[]): Delta | null;
	whole(project: Project, stroked: readonly TileRecord[]): Delta;
	/** Notes that the document itself is to be kept. */
	touchDocument(): void;
	/** Takes kept tiles in: nothing of them is to be kept anew. */
	takeKept(tiles: Iterable<KeptTile>): void;
	/** Surfaces of kept tiles that did not fit, one for each tile. */
	readonly leftOut: readonly SurfaceId[];
	close(): void;
}

export function createSurfaces(kernels: Kernels, opened: Project): Surfaces {
	const { heap } = kernels;
	const map = new Map<SurfaceId, Surface>();
	const changed = new Map<SurfaceId, Set<number>>();
	const wholes = new Set<SurfaceId>();
	const leftOut: SurfaceId[] = [];
	let documentChanged = false;
	for (const { id, format, width, height } of surfacesOfProject(opened))
		if (!map.has(id)) map.set(id, createSurface(id, format, width, height));

	return {
		map,
		leftOut,
		begin({ id, format, start }, sheet) {
			if (map.has(id)) return;
			const source = typeof start === 'object' ? map.get(start.copyOf) : undefined;
			const surface = source ? copySurface(heap, source, id) : createSurface(id, format, sheet.width, sheet.height);
			if (start === 'white') {
				surface.kinds.fill(Kind.uniform);
				surface.data.fill(255);
			}
			map.set(id, surface);
			if (source || start === 'white') wholes.add(id);
		},
		add(surface) {
			map.set(surface.id, surface);
			wholes.add(surface.id);
		},
		touch(record) {
			let set = changed.get(record.surface.id);
			if (!set) changed.set(record.surface.id, (set = new Set()));
			for (const index of record.tiles.keys()) set.add(index);
		},
		touchAll: (id) => void wholes.add(id),
		touchDocument() {
			documentChanged = true;
		},
		forget(ids) {
			for (const id of ids) {
				const surface = map.get(id);
				if (!surface) continue;
				clearSurface(heap, surface);
				map.delete(id);
				changed.delete(id);
				wholes.delete(id);
			}
		},
		takeDelta(project, stroked) {
			if (!documentChanged && changed.size === 0 && wholes.size === 0) return null;
			const tiles = deltaTiles(heap, project, map, changed, wholes, stroked);
			changed.clear();
			wholes.clear();
			documentChanged = false;
			return { project, tiles };
		},
		whole: (project, stroked) => ({
			project,
			tiles: deltaTiles(heap, project, map, changed, new Set(map.keys()), stroked),
		}),
		takeKept(tiles) {
			for (const { surface: id, index, count = 1, value, texels } of tiles) {
				const surface = map.get(id);
				if (!surface) continue;
				const { format } = surface;
				if (index + count > surface.kinds.length || (texels && texels.length !== tileBytes(format))) {
					leftOut.push(id);
					continue;
				}
				for (let i = index; i < index + count; i++) {
					dropTile(heap, format, tileState(surface, i));
					if (texels) {
						const at = heap.alloc(tileBytes(format));
						heap.u8.set(texels, at);
						setTileState(surface, i, settleTile(kernels, format, at));
					} else setTileState(surface, i, { kind: value ? Kind.uniform : Kind.empty, data: value ?? 0 });
				}
			}
		},
		close() {
			for (const surface of map.values()) clearSurface(heap, surface);
		},
	};
}
