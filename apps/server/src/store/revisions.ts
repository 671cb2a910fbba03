import type { Desk, Project } from '@eppu/core/document';
import type { PackedTile } from '@eppu/core/format';
import { and, eq, isNull, sql } from 'drizzle-orm';
import type { OpenDatabase } from './database.ts';
import { StoreError } from './error.ts';
import { checked, type ProjectRows } from './rows.ts';
import { blobs, projects, revisions } from './schema.ts';
import { type Lengths, putBlobs, putTiles, shapesOf, tilesOf, withTexels } from './tiles.ts';

/** What a save brings: the project as it is now and the tiles that changed. */
export interface Save {
	/** The revision that it goes out from. */
	readonly base: number;
	/** Its own name: the same save sent again is known by it and by the hash of what it holds. */
	readonly save: string;
	readonly content: string;
	readonly project: Project;
	readonly tiles: readonly PackedTile[];
	/** What was put down ahead: tiles may name it without bringing it. */
	readonly ahead?: Lengths;
}

export interface Saved {
	readonly revision: number;
	/** The project's name, which may have been changed from elsewhere. */
	readonly name: string;
}

/** What a project is without its texels. */
export interface ProjectHead {
	readonly project: Project;
	readonly desk: Desk | null;
	readonly revision: number;
}

export interface StoredProject extends ProjectHead {
	/** The save that made it. */
	readonly save: string | null;
	/** Tiles with their texels, some at a time; all of this one revision. */
	tiles(): Iterable<readonly PackedTile[]>;
}

/** What projects are from revision to revision: saved, loaded, and copied as they were at one. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: a facet of the store: one short method after the other over one connection.
export function projectRevisions({ db, transact }: OpenDatabase, rows: ProjectRows) {
	const head = (id: string): ProjectHead => {
		const row = rows.need(id);
		return {
			project: JSON.parse(row.document) as Project,
			desk: row.desk ? (JSON.parse(row.desk) as Desk) : null,
			revision: row.revision,
		};
	};
	return {
		/** Keeps texels ahead of the save that names them; those that no save names are swept. */
		putAhead: (list: readonly PackedTile[]): Lengths => transact(() => putBlobs(db, list)),

		/**
		 * Keeps a new revision: document and tiles in one transaction. The same save again (its answer was lost) is answered
		 * the same; another one over a revision that is not the newest is a conflict, and nothing of it is kept.
		 */
		save(id: string, { base, save, content, project: given, tiles: list, ahead }: Save): Saved {
			const project = checked(given);
			if (project.id !== id) throw new StoreError('bad-input', 'What was sent belongs to another project.');
			return transact(() => {
				const row = db
					.select({ revision: projects.revision, name: projects.name })
					.from(projects)
					.where(and(eq(projects.id, id), isNull(projects.deletedAt)))
					.get();
				if (!row) throw new StoreError('not-found', 'There is no such project here. It may have been deleted.');
				const known = db
					.select({ revision: revisions.revision, content: revisions.content })
					.from(revisions)
					.where(and(eq(revisions.project, id), eq(revisions.save, save)))
					.get();
				if (known && known.content === content) return { revision: known.revision, name: row.name };
				if (known || row.revision !== base)
					throw new StoreError('conflict', 'This project was changed from another place since it was opened here.');
				const now = Date.now();
				const lengths = new Map([...(ahead ?? []), ...putBlobs(db, list)]);
				putTiles(db, id, shapesOf(project), list, lengths, base, now);
				// Names are changed by themselves (rename), so that a name given elsewhere stays.
				const named = { ...project, name: row.name };
				rows.noteRevision(named, base + 1, save, content, now);
				db.update(projects)
					.set({ document: JSON.stringify(named), revision: base + 1, updatedAt: now })
					.where(eq(projects.id, id))
					.run();
				return { revision: base + 1, name: row.name };
			});
		},

		head,

		load(id: string): StoredProject {
			const found = head(id);
			const list = tilesOf(db, id, shapesOf(found.project));
			return {
				...found,
				save:
					db
						.select({ save: revisions.save })
						.from(revisions)
						.where(and(eq(revisions.project, id), eq(revisions.revision, found.revision)))
						.get()?.save ?? null,
				tiles: () => withTexels(db, list),
			};
		},

		/**
		 * A copy under a new id and name, tiles and files by reference to the same content; as it was at a revision where
		 * one is named. The same copy asked for again is the one that was made. Tells whether that revision was still known:
		 * where it was not, the copy is of the project as it is now.
		 */
		copy(id: string, newId: string, name: string, revision?: number): { readonly exact: boolean } {
			const row = rows.need(id);
			const origin = `${id} ${revision ?? ''}`;
			const made = db.select({ origin: projects.origin }).from(projects).where(eq(projects.id, newId)).get();
			const past =
				revision === undefined || revision === row.revision
					? null
					: db
							.select({ text: blobs.bytes })
							.from(revisions)
							.innerJoin(blobs, eq(blobs.hash, revisions.document))
							.where(and(eq(revisions.project, id), eq(revisions.revision, revision)))
							.get();
			const exact = revision === undefined || revision === row.revision || past !== undefined;
			if (made && made.origin === origin && revision !== undefined) return { exact };
			const from = JSON.parse(past ? past.text.toString('utf8') : row.document) as Project;
			const project = checked({ ...from, id: newId, name });
			const now = Date.now();
			transact(() => {
				rows.needFree(newId);
				db.run(
					sql`insert into project (id, name, revision, document, desk, cover, created_at, updated_at, origin) select ${newId}, ${name}, 1, ${JSON.stringify(project)}, desk, cover, ${now}, ${now}, ${origin} from project where id = ${id}`,
				);
				if (past) {
					// What each tile was at the revision: the first note that holds for it, or else what it is now.
					db.run(
						sql`insert into tile (project, surface, idx, value, hash) select ${newId}, surface, idx, value, hash from (select surface, idx, value, hash, min(until) from past_tile where project = ${id} and until >= ${revision} group by surface, idx) where value is not null or hash is not null`,
					);
					db.run(
						sql`insert into tile (project, surface, idx, value, hash) select ${newId}, surface, idx, value, hash from tile where project = ${id} and not exists (select 1 from past_tile where past_tile.project = ${id} and past_tile.surface = tile.surface and past_tile.idx = tile.idx and past_tile.until >= ${revision})`,
					);
				} else
					db.run(
						sql`insert into tile (project, surface, idx, value, hash) select ${newId}, surface, idx, value, hash from tile where project = ${id}`,
					);
				db.run(
					sql`insert into asset (project, hash, name) select ${newId}, hash, name from asset where project = ${id}`,
				);
				rows.noteRevision(project, 1, 'made', '', now);
			});
			return { exact };
		},
	};
}
