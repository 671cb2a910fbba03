import { cleanNameProblem, type Desk, type Project, projectProblem, surfacesOfSheet } from '@eppu/core/document';
import type { PackedTile } from '@eppu/core/format';
import { and, desc, eq, isNotNull, isNull, lt, sql } from 'drizzle-orm';
import { openDatabase } from './database.ts';
import { StoreError } from './error.ts';
import { openLibrary } from './library.ts';
import { assets, blobs, pastTiles, projects, revisions } from './schema.ts';
import { type Lengths, putBlobs, putTiles, sha256, shapesOf, tileProblems, tilesOf, withTexels } from './tiles.ts';

export interface ProjectCard {
	readonly id: string;
	readonly name: string;
	readonly revision: number;
	readonly updatedAt: number;
	readonly deletedAt: number | null;
	readonly hasCover: boolean;
}

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

export interface StoredProject {
	readonly project: Project;
	readonly desk: Desk | null;
	readonly revision: number;
	/** The save that made it. */
	readonly save: string | null;
	/** Tiles with their texels, some at a time; all of this one revision. */
	tiles(): Iterable<readonly PackedTile[]>;
}

const DAY_MS = 24 * 3600 * 1000;
/** Deleted projects come back for this long. */
const KEPT_DELETED_MS = 30 * DAY_MS;
/** What a project was is remembered for this long: what undo may bring back, and what a browser that was away goes out from. */
const KEPT_PAST_MS = 14 * DAY_MS;

export type Store = ReturnType<typeof openStore>;

/** The store over a SQLite file. Calls are synchronous; each write is one transaction. */
export function openStore(file: string, migrationsFolder: string) {
	const { db, transact, pragma, close } = openDatabase(file, migrationsFolder);

	const needRow = (id: string) => {
		const row = db
			.select({ revision: projects.revision, document: projects.document, desk: projects.desk })
			.from(projects)
			.where(and(eq(projects.id, id), isNull(projects.deletedAt)))
			.get();
		if (!row) throw new StoreError('not-found', 'There is no such project here. It may have been deleted.');
		return row;
	};
	const putFile = (hash: string, bytes: Buffer): void => {
		db.insert(blobs).values({ hash, bytes }).onConflictDoNothing().run();
	};
	/** Notes what a revision is. */
	const noteRevision = (project: Project, revision: number, save: string, content: string, at: number): void => {
		const text = Buffer.from(JSON.stringify(project));
		const document = sha256(text);
		putFile(document, text);
		db.insert(revisions).values({ project: project.id, revision, save, content, document, at }).run();
	};
	const checked = (project: unknown): Project => {
		const problem = projectProblem(project) ?? cleanNameProblem((project as Project).name);
		if (problem) throw new StoreError('bad-input', problem);
		return project as Project;
	};
	const free = (id: string): void => {
		if (db.select({ id: projects.id }).from(projects).where(eq(projects.id, id)).get())
			throw new StoreError('conflict', 'A project with this id is here already.');
	};

	return {
		close,
		library: openLibrary(db),

		/** What the database's own checks find: words, none where it is whole. */
		problems: (): string[] => [
			...pragma('integrity_check')
				.flatMap((row) => Object.values(row).map(String))
				.filter((words) => words !== 'ok'),
			...pragma('foreign_key_check').map((row) => `A row of "${row.table}" lost what it belongs to.`),
		],

		list(deleted = false): ProjectCard[] {
			return db
				.select({
					id: projects.id,
					name: projects.name,
					revision: projects.revision,
					updatedAt: projects.updatedAt,
					deletedAt: projects.deletedAt,
					hasCover: sql<number>`${projects.cover} is not null`,
				})
				.from(projects)
				.where(deleted ? isNotNull(projects.deletedAt) : isNull(projects.deletedAt))
				.orderBy(desc(projects.updatedAt))
				.all()
				.map((row) => ({ ...row, hasCover: Boolean(row.hasCover) }));
		},

		/** What is wrong with a project as it is kept, deleted or not: words, none where it opens whole. */
		problemsOf(id: string): string[] {
			const row = db.select({ document: projects.document }).from(projects).where(eq(projects.id, id)).get();
			if (!row) return [];
			const project = JSON.parse(row.document) as Project;
			const problem = projectProblem(project);
			if (problem) return [problem];
			const out: string[] = [];
			const list = tilesOf(db, id, shapesOf(project));
			let found = 0;
			for (const some of withTexels(db, list)) {
				found += some.length;
				out.push(...tileProblems(shapesOf(project), some));
			}
			if (found < list.length) out.push(`${list.length - found} tiles have no texels any more.`);
			for (const { hash, name } of db.select().from(assets).where(eq(assets.project, id)).all()) {
				const bytes = db.select({ bytes: blobs.bytes }).from(blobs).where(eq(blobs.hash, hash)).get()?.bytes;
				if (!bytes || sha256(bytes) !== hash) out.push(`The file "${name}" is not what it was.`);
			}
			return out;
		},

		/** The file grows to so many bytes at the most; beyond that the disk counts as full. */
		limitTo(bytes: number): void {
			const page = Number(Object.values(pragma('page_size')[0] ?? {})[0]) || 4096;
			pragma(`max_page_count=${Math.max(1, Math.floor(bytes / page))}`);
		},

		/** Makes a project with the files that it is made from and, where given, tiles and a desk. */
		create(
			project: Project,
			files: readonly { readonly name: string; readonly bytes: Uint8Array }[],
			start: {
				readonly desk?: Desk | undefined;
				readonly tiles?: readonly PackedTile[];
				readonly ahead?: Lengths;
			} = {},
		): void {
			checked(project);
			const hashes = new Set(files.map((each) => sha256(each.bytes)));
			const wanted = [
				...project.models.map((model) => model.asset),
				...project.sheets.flatMap((sheet) => (sheet.guide ? [sheet.guide] : [])),
			];
			for (const asset of wanted)
				if (!hashes.has(asset.hash))
					throw new StoreError('bad-input', `The file "${asset.name}" that the project names was not sent with it.`);
			const now = Date.now();
			transact(() => {
				free(project.id);
				db.insert(projects)
					.values({
						id: project.id,
						name: project.name,
						revision: 1,
						document: JSON.stringify(project),
						desk: start.desk ? JSON.stringify(start.desk) : null,
						createdAt: now,
						updatedAt: now,
					})
					.run();
				for (const each of files) {
					const hash = sha256(each.bytes);
					putFile(hash, Buffer.from(each.bytes));
					db.insert(assets).values({ project: project.id, hash, name: each.name }).onConflictDoNothing().run();
				}
				const lengths = new Map([...(start.ahead ?? []), ...putBlobs(db, start.tiles ?? [])]);
				putTiles(db, project.id, shapesOf(project), start.tiles ?? [], lengths, null, now);
				noteRevision(project, 1, 'made', '', now);
			});
		},

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
				noteRevision(named, base + 1, save, content, now);
				db.update(projects)
					.set({ document: JSON.stringify(named), revision: base + 1, updatedAt: now })
					.where(eq(projects.id, id))
					.run();
				return { revision: base + 1, name: row.name };
			});
		},

		load(id: string): StoredProject {
			const row = needRow(id);
			const project = JSON.parse(row.document) as Project;
			const list = tilesOf(db, id, shapesOf(project));
			return {
				project,
				desk: row.desk ? (JSON.parse(row.desk) as Desk) : null,
				revision: row.revision,
				save:
					db
						.select({ save: revisions.save })
						.from(revisions)
						.where(and(eq(revisions.project, id), eq(revisions.revision, row.revision)))
						.get()?.save ?? null,
				tiles: () => withTexels(db, list),
			};
		},

		asset(id: string, hash: string): { readonly name: string; readonly bytes: Buffer } {
			const row = db
				.select({ name: assets.name, bytes: blobs.bytes })
				.from(assets)
				.innerJoin(blobs, eq(blobs.hash, assets.hash))
				.where(and(eq(assets.project, id), eq(assets.hash, hash)))
				.get();
			if (!row) throw new StoreError('not-found', 'This project has no such file.');
			return row;
		},

		putDesk(id: string, desk: Desk): void {
			needRow(id);
			db.update(projects)
				.set({ desk: JSON.stringify(desk) })
				.where(eq(projects.id, id))
				.run();
		},

		putCover(id: string, cover: Buffer): void {
			needRow(id);
			db.update(projects).set({ cover }).where(eq(projects.id, id)).run();
		},

		cover(id: string): Buffer {
			const row = db.select({ cover: projects.cover }).from(projects).where(eq(projects.id, id)).get();
			if (!row?.cover) throw new StoreError('not-found', 'This project has no picture yet.');
			return row.cover;
		},

		/** Renames, which makes no revision: whoever has the project open hears the name with the next save. */
		rename(id: string, name: string): void {
			const row = needRow(id);
			const project = checked({ ...(JSON.parse(row.document) as Project), name });
			db.update(projects)
				.set({ name, document: JSON.stringify(project), updatedAt: Date.now() })
				.where(eq(projects.id, id))
				.run();
		},

		/**
		 * A copy under a new id and name, tiles and files by reference to the same content; as it was at a revision where
		 * one is named. The same copy asked for again is the one that was made. Tells whether that revision was still known:
		 * where it was not, the copy is of the project as it is now.
		 */
		copy(id: string, newId: string, name: string, revision?: number): { readonly exact: boolean } {
			const row = needRow(id);
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
				free(newId);
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
				noteRevision(project, 1, 'made', '', now);
			});
			return { exact };
		},

		remove(id: string): void {
			needRow(id);
			db.update(projects).set({ deletedAt: Date.now() }).where(eq(projects.id, id)).run();
		},

		restore(id: string): void {
			if (db.update(projects).set({ deletedAt: null }).where(eq(projects.id, id)).run().changes === 0)
				throw new StoreError('not-found', 'There is no such project to bring back.');
		},

		/**
		 * Lets go of what was deleted long ago, of what a project was long ago, and of texels that nothing names any more.
		 * What a layer held that was deleted lately stays: undo may bring it back.
		 */
		sweep(now = Date.now()): void {
			transact(() => {
				db.delete(projects)
					.where(lt(projects.deletedAt, now - KEPT_DELETED_MS))
					.run();
				db.delete(pastTiles)
					.where(lt(pastTiles.at, now - KEPT_PAST_MS))
					.run();
				db.run(
					sql`delete from revision where at < ${now - KEPT_PAST_MS} and revision < (select revision from project where project.id = revision.project)`,
				);
				for (const { id, document } of db
					.select({ id: projects.id, document: projects.document })
					.from(projects)
					.all()) {
					const live = new Set(surfacesNamed(document));
					for (const { text } of db
						.selectDistinct({ text: blobs.bytes })
						.from(revisions)
						.innerJoin(blobs, eq(blobs.hash, revisions.document))
						.where(eq(revisions.project, id))
						.all())
						for (const surface of surfacesNamed(text.toString('utf8'))) live.add(surface);
					for (const { surface } of db.all<{ surface: string }>(
						sql`select distinct surface from tile where project = ${id}`,
					))
						if (!live.has(surface)) db.run(sql`delete from tile where project = ${id} and surface = ${surface}`);
				}
				db.run(
					sql`delete from blob where not exists (select 1 from tile where tile.hash = blob.hash) and not exists (select 1 from past_tile where past_tile.hash = blob.hash) and not exists (select 1 from asset where asset.hash = blob.hash) and not exists (select 1 from revision where revision.document = blob.hash)`,
				);
			});
		},
	};
}

const surfacesNamed = (document: string): string[] =>
	(JSON.parse(document) as Project).sheets.flatMap((sheet) => surfacesOfSheet(sheet).map((each) => each.id));
