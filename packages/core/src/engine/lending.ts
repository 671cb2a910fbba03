import { bakeFilesOf, type Project } from '../document/index.ts';
import type { Pool } from '../jobs/index.ts';
import type { LaidMesh } from '../mesh/index.ts';
import type { Engine } from './engine.ts';

/** Tiles of a loan: few enough that what is no longer wanted is soon over. */
const MOST_TILES = 32;

/** Gives what is to be computed to the pool. */
export interface Lending {
	/** Loans that are out. */
	readonly out: number;
	/** Gives away what members can begin now; calls `back` when something of it is there. */
	lend(open: Engine, pool: Pool, back: () => void): void;
}

/** `current` says whether an engine is still the one that is wanted. */
export function createLending(current: (open: Engine) => boolean): Lending {
	let out = 0;
	/** What the pool knows: of which engine, its document, and which pictures. */
	let told: {
		readonly open: Engine;
		readonly meshes: readonly LaidMesh[];
		project: Project | null;
		readonly pictures: Map<string, unknown>;
	} | null = null;
	const tellAll = (open: Engine, pool: Pool): void => {
		const finer = bakeFilesOf(open.project).flatMap(({ hash }) => {
			const mesh = open.meshes.get(hash);
			return mesh ? [[hash, mesh] as const] : [];
		});
		const meshes = [
			...open.project.models.flatMap(({ id }) => open.scene(id)?.mesh ?? []),
			...finer.map(([, mesh]) => mesh),
		];
		if (
			told?.open !== open ||
			meshes.length !== told.meshes.length ||
			meshes.some((mesh, i) => told?.meshes[i] !== mesh)
		) {
			const scenes = open.project.models.flatMap(({ id }) => open.scene(id) ?? []);
			pool.tell({
				say: 'meshes',
				meshes: new Map([...scenes.map(({ model, mesh }) => [model.id, mesh] as const), ...finer]),
			});
			told = { open, meshes, project: null, pictures: told?.pictures ?? new Map() };
		}
		for (const [id, picture] of open.pictures.own)
			if (told.pictures.get(id) !== picture) {
				told.pictures.set(id, picture);
				pool.tell({ say: 'picture', id, picture });
			}
		for (const [id, map] of open.pictures.maps)
			if (told.pictures.get(id) !== map) {
				told.pictures.set(id, map);
				pool.tell({ say: 'map', id, map });
			}
		if (told.project !== open.project) {
			told.project = open.project;
			pool.tell({ say: 'project', project: open.project });
		}
	};
	return {
		get out() {
			return out;
		},
		lend(open, pool, back) {
			while (pool.idle > 0) {
				const work = open.lend(MOST_TILES);
				if (!work) return;
				tellAll(open, pool);
				out++;
				void pool.do(work, 1).then((made) => {
					out--;
					if (!current(open)) return;
					open.returned(work, made);
					back();
				});
			}
		},
	};
}
