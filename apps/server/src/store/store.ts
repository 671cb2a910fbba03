import { createHash } from 'node:crypto';
import { deflateRawSync, inflateRawSync } from 'node:zlib';
import {
	type Delta,
	type Desk,
	type KeptTile,
	type Project,
	projectProblem,
	surfacesOfSheet,
} from '@eppu/core/document';
import type { PackedTile } from '@eppu/core/format';
import { and, desc, eq, isNotNull, isNull, lt, sql } from 'drizzle-orm';
import { type Database, openDatabase } from './database.ts';
import { StoreError } from './error.ts';
import { openLibrary } from './library.ts';
import { assets, blobs, projects, tiles } from './schema.ts';

export interface ProjectCard {
	readonly id: string;
	readonly name: string;
	readonly revision: number;
	readonly updatedAt: number;
	readonly deletedAt: number | null;
	readonly hasCover: boolean;
}

/** What a save brings: the project as it is now, the tiles that changed, and deflated texels for some of them. */
export interface Save {
	readonly base: number;
	readonly project: Project;
	readonly tiles: readonly PackedTile[];
	readonly blobs: readonly Uint8Array[];
}

export interface StoredProject {
	readonly project: Project;
	readonly desk: Desk | null;
	readonly revision: number;
	readonly tiles: readonly PackedTile[];
	/** Deflated texels in the order of the tiles that have any. */
	blobs(): Iterable<Buffer>;
}

export const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

/** Deleted projects come back for this long. */
const KEPT_DELETED_MS = 30 * 24 * 3600 * 1000;
/** Raw texels of a colour tile, and of a mask tile. */
const TEXEL_BYTES = [16384, 4096];

export type Store = ReturnType<typeof openStore>;

/** The store over a SQLite file. Calls are synchronous; each write is one transaction. */
export function openStore(file: string, migrationsFolder: string) {
	const { db, close } = openDatabase(file, migrationsFolder);

	const needRow = (id: string) => {
		const row = db
			.select({ revision: projects.revision, document: projects.document, desk: projects.desk })
			.from(projects)
			.where(and(eq(projects.id, id), isNull(projects.deletedAt)))
			.get();
		if (!row) throw new StoreError('not-found', 'There is no such project here. It may have been deleted.');
		return row;
	};
	const putBlob = (db_: Pick<Database, 'insert'>, hash: string, bytes: Buffer): void => {
		db_.insert(blobs).values({ hash, bytes }).onConflictDoNothing().run();
	};
	const putTiles = (
		tx: Pick<Database, 'insert' | 'delete'>,
		project: string,
		list: readonly PackedTile[],
		bytes: readonly Uint8Array[],
	): void => {
		let next = 0;
		for (const tile of list) {
			if (tile.value === null && tile.hash) {
				const deflated = Buffer.from(bytes[next++] as Uint8Array);
				let raw: Buffer;
				try {
					raw = inflateRawSync(deflated, { maxOutputLength: 16384 });
				} catch {
					throw new StoreError('bad-input', 'A tile in what was sent cannot be unpacked.');
				}
				if (!TEXEL_BYTES.includes(raw.length) || sha256(raw) !== tile.hash)
					throw new StoreError('bad-input', 'A tile in what was sent does not match its own hash.');
				putBlob(tx, tile.hash, deflated);
			}
			const at = { project, surface: tile.surface, index: tile.index };
			if (tile.value === 0)
				tx.delete(tiles)
					.where(and(eq(tiles.project, project), eq(tiles.surface, tile.surface), eq(tiles.index, tile.index)))
					.run();
			else {
				const what = { value: tile.value, hash: tile.hash };
				tx.insert(tiles)
					.values({ ...at, ...what })
					.onConflictDoUpdate({ target: [tiles.project, tiles.surface, tiles.index], set: what })
					.run();
			}
		}
	};
	const checked = (project: unknown): Project => {
		const problem = projectProblem(project);
		if (problem) throw new StoreError('bad-input', problem);
		return project as Project;
	};

	return {
		close,
		library: openLibrary(db),

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

		/** Makes a project with the files that it is made from and, where given, tiles and a desk. */
		create(
			project: Project,
			files: readonly { readonly name: string; readonly bytes: Uint8Array }[],
			start: { desk?: Desk; tiles?: readonly PackedTile[]; blobs?: readonly Uint8Array[] } = {},
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
			db.transaction((tx) => {
				if (tx.select({ id: projects.id }).from(projects).where(eq(projects.id, project.id)).get())
					throw new StoreError('conflict', 'A project with this id is here already.');
				tx.insert(projects)
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
					putBlob(tx, hash, Buffer.from(each.bytes));
					tx.insert(assets).values({ project: project.id, hash, name: each.name }).onConflictDoNothing().run();
				}
				putTiles(tx, project.id, start.tiles ?? [], start.blobs ?? []);
			});
		},

		/**
		 * Keeps a new revision: document and tiles in one transaction. A save that was kept before (its answer was lost)
		 * is answered the same again. Returns the revision now kept.
		 */
		save(id: string, save: Save): number {
			const project = checked(save.project);
			if (project.id !== id) throw new StoreError('bad-input', 'What was sent belongs to another project.');
			return db.transaction((tx) => {
				const row = tx
					.select({ revision: projects.revision })
					.from(projects)
					.where(and(eq(projects.id, id), isNull(projects.deletedAt)))
					.get();
				if (!row) throw new StoreError('not-found', 'There is no such project here. It may have been deleted.');
				if (row.revision === save.base + 1) {
					const kept = tx.select({ document: projects.document }).from(projects).where(eq(projects.id, id)).get();
					if (kept?.document === JSON.stringify(project)) return row.revision;
				}
				if (row.revision !== save.base)
					throw new StoreError('conflict', 'This project was changed from another place since it was opened here.');
				putTiles(tx, id, save.tiles, save.blobs);
				tx.update(projects)
					.set({
						name: project.name,
						document: JSON.stringify(project),
						revision: save.base + 1,
						updatedAt: Date.now(),
					})
					.where(eq(projects.id, id))
					.run();
				return save.base + 1;
			});
		},

		load(id: string): StoredProject {
			const row = needRow(id);
			const list = db.select().from(tiles).where(eq(tiles.project, id)).all();
			const sizes = new Map(
				db
					.select({ hash: blobs.hash, length: sql<number>`length(${blobs.bytes})` })
					.from(blobs)
					.innerJoin(tiles, eq(tiles.hash, blobs.hash))
					.where(eq(tiles.project, id))
					.all()
					.map((each) => [each.hash, each.length]),
			);
			const packed = list.map((tile) => ({
				surface: tile.surface,
				index: tile.index,
				value: tile.value,
				hash: tile.hash,
				length: tile.hash ? (sizes.get(tile.hash) ?? 0) : 0,
			}));
			return {
				project: JSON.parse(row.document) as Project,
				desk: row.desk ? (JSON.parse(row.desk) as Desk) : null,
				revision: row.revision,
				tiles: packed,
				*blobs() {
					for (const tile of packed)
						if (tile.hash)
							yield db.select({ bytes: blobs.bytes }).from(blobs).where(eq(blobs.hash, tile.hash)).get()
								?.bytes as Buffer;
				},
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

		rename(id: string, name: string): void {
			const row = needRow(id);
			const project = checked({ ...(JSON.parse(row.document) as Project), name });
			db.update(projects)
				.set({ name, document: JSON.stringify(project), revision: row.revision + 1, updatedAt: Date.now() })
				.where(eq(projects.id, id))
				.run();
		},

		/** A copy under a new id and name, tiles and files by reference to the same content. */
		copy(id: string, newId: string, name: string): void {
			const row = needRow(id);
			const project = checked({ ...(JSON.parse(row.document) as Project), id: newId, name });
			const now = Date.now();
			db.transaction((tx) => {
				tx.run(
					sql`insert into project (id, name, revision, document, desk, cover, created_at, updated_at) select ${newId}, ${name}, 1, ${JSON.stringify(project)}, desk, cover, ${now}, ${now} from project where id = ${id}`,
				);
				tx.run(
					sql`insert into tile (project, surface, idx, value, hash) select ${newId}, surface, idx, value, hash from tile where project = ${id}`,
				);
				tx.run(
					sql`insert into asset (project, hash, name) select ${newId}, hash, name from asset where project = ${id}`,
				);
			});
		},

		remove(id: string): void {
			needRow(id);
			db.update(projects).set({ deletedAt: Date.now() }).where(eq(projects.id, id)).run();
		},

		restore(id: string): void {
			if (db.update(projects).set({ deletedAt: null }).where(eq(projects.id, id)).run().changes === 0)
				throw new StoreError('not-found', 'There is no such project to bring back.');
		},

		/** Lets go of what was deleted long ago and of texels that nothing names any more. */
		sweep(now = Date.now()): void {
			db.transaction((tx) => {
				tx.delete(projects)
					.where(lt(projects.deletedAt, now - KEPT_DELETED_MS))
					.run();
				for (const row of tx
					.select({ id: projects.id, document: projects.document })
					.from(projects)
					.where(isNull(projects.deletedAt))
					.all()) {
					const live = new Set(
						(JSON.parse(row.document) as Project).sheets.flatMap((sheet) =>
							surfacesOfSheet(sheet).map((each) => each.id),
						),
					);
					for (const { surface } of tx
						.selectDistinct({ surface: tiles.surface })
						.from(tiles)
						.where(eq(tiles.project, row.id))
						.all())
						if (!live.has(surface))
							tx.delete(tiles)
								.where(and(eq(tiles.project, row.id), eq(tiles.surface, surface)))
								.run();
				}
				tx.run(
					sql`delete from blob where not exists (select 1 from tile where tile.hash = blob.hash) and not exists (select 1 from asset where asset.hash = blob.hash)`,
				);
			});
		},
	};
}

/** A delta as it is stored: texels deflated, with their hashes. */
export function packDelta({ tiles: list }: Delta): { readonly tiles: PackedTile[]; readonly blobs: Buffer[] } {
	const packed: PackedTile[] = [];
	const bytes: Buffer[] = [];
	for (const tile of list) {
		if (!tile.texels) {
			packed.push({ surface: tile.surface, index: tile.index, value: tile.value ?? 0, hash: null, length: 0 });
			continue;
		}
		const deflated = deflateRawSync(tile.texels, { level: 1 });
		bytes.push(deflated);
		packed.push({
			surface: tile.surface,
			index: tile.index,
			value: null,
			hash: sha256(tile.texels),
			length: deflated.length,
		});
	}
	return { tiles: packed, blobs: bytes };
}

/** The tiles of a stored project as the engine opens them. */
export function* keptTiles(stored: StoredProject): Iterable<KeptTile> {
	const bytes = stored.blobs()[Symbol.iterator]();
	for (const tile of stored.tiles) {
		const texels = tile.hash ? new Uint8Array(inflateRawSync(bytes.next().value as Buffer)) : null;
		yield { surface: tile.surface, index: tile.index, value: tile.value, texels };
	}
}
