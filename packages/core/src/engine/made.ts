import { nameDerived } from '../derive/index.ts';
import type { SurfaceId } from '../surface/index.ts';
import { type KeptTile, keptSurface } from './delta.ts';
import type { Workspace } from './workspace.ts';

/** Tiles beyond their reach that tiles of a computed surface read: [tile read, tiles that read it]. */
export type FarReads = readonly (readonly [number, readonly number[]])[];

/** A computed surface, as it is kept from one visit to the next. */
export interface Made<Tile = KeptTile> {
	readonly tiles: readonly Tile[];
	readonly far: FarReads;
}

/** Computed surfaces that are kept beside the project, by names that say all that they depend on. */
export interface MadeKeeping {
	/** Names of all computed surfaces; pauses now and then, and ends with null where something changed meanwhile. */
	nameMade(): Generator<void, ReadonlyMap<SurfaceId, string> | null>;
	/** A computed surface as it stands; null where some of it is still to be computed. */
	made(id: SurfaceId): Made | null;
	/** Puts a computed surface in its place: nothing of it is to be computed. It must have been kept under its name. */
	takeMade(id: SurfaceId, made: Made): void;
}

export function madeKeeping(workspace: Workspace): MadeKeeping {
	const { kernels, means, surfaces, derivation, takeKept } = workspace;
	return {
		*nameMade() {
			const { turn } = workspace;
			const naming = nameDerived(means, workspace.project);
			while (true) {
				const { done, value } = naming.next();
				if (done) return value;
				yield;
				if (workspace.turn !== turn) return null;
			}
		},
		made(id) {
			const [surface, far] = [surfaces.get(id), derivation.farOf(id)];
			return surface && far ? { tiles: keptSurface(kernels.heap, surface), far } : null;
		},
		takeMade(id, { tiles, far }) {
			if (!derivation.taken(id, far)) return;
			takeKept(tiles.map((tile) => ({ ...tile, surface: id })));
		},
	};
}
