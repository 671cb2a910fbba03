import { assetsOf, type Desk, type Project } from '@eppu/core/document';
import type { PackedTile } from '@eppu/core/format';
import { and, desc, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import type { OpenDatabase } from './database.ts';
import { StoreError } from './error.ts';
import { checked, type ProjectRows } from './rows.ts';
import { assets, blobs, projects } from './schema.ts';
import { type Lengths, putBlobs, putTiles, sha256, shapesOf } from './tiles.ts';

export interface ProjectCard {
	readonly id: string;
	readonly name: string;
	readonly revision: number;
	readonly updatedAt: number;
	readonly deletedAt: number | null;
	readonly hasCover: boolean;
}

/** Projects as a whole: which there are, how they begin and end, and what lies beside their document. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: a facet of the store: one short method after the other over one connection.
export function projectCards({ db, transact }: OpenDatabase, rows: ProjectRows) {
	return {
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
			start: {
				readonly desk?: Desk | undefined;
				readonly tiles?: readonly PackedTile[];
				readonly ahead?: Lengths;
			} = {},
		): void {
			checked(project);
			const hashes = new Set(files.map((each) => sha256(each.bytes)));
			const wanted = assetsOf(project);
			for (const asset of wanted)
				if (!hashes.has(asset.hash))
					throw new StoreError('bad-input', `The file "${asset.name}" that the project names was not sent with it.`);
			const now = Date.now();
			transact(() => {
				rows.needFree(project.id);
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
					rows.putFile(hash, Buffer.from(each.bytes));
					db.insert(assets).values({ project: project.id, hash, name: each.name }).onConflictDoNothing().run();
				}
				const lengths = new Map([...(start.ahead ?? []), ...putBlobs(db, start.tiles ?? [])]);
				putTiles(db, project.id, shapesOf(project), start.tiles ?? [], lengths, null, now);
				rows.noteRevision(project, 1, 'made', '', now);
			});
		},

		/** Keeps a file that a project is about to name, and tells its hash. */
		putAsset(id: string, name: string, bytes: Uint8Array): string {
			rows.need(id);
			const hash = sha256(bytes);
			transact(() => {
				rows.putFile(hash, Buffer.from(bytes));
				db.insert(assets).values({ project: id, hash, name }).onConflictDoNothing().run();
			});
			return hash;
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
			rows.need(id);
			db.update(projects)
				.set({ desk: JSON.stringify(desk) })
				.where(eq(projects.id, id))
				.run();
		},

		putCover(id: string, cover: Buffer): void {
			rows.need(id);
			db.update(projects).set({ cover }).where(eq(projects.id, id)).run();
		},

		cover(id: string): Buffer {
			const row = db.select({ cover: projects.cover }).from(projects).where(eq(projects.id, id)).get();
			if (!row?.cover) throw new StoreError('not-found', 'This project has no picture yet.');
			return row.cover;
		},

		/** Renames, which makes no revision: whoever has the project open hears the name with the next save. */
		rename(id: string, name: string): void {
			const row = rows.need(id);
			const project = checked({ ...(JSON.parse(row.document) as Project), name });
			db.update(projects)
				.set({ name, document: JSON.stringify(project), updatedAt: Date.now() })
				.where(eq(projects.id, id))
				.run();
		},

		remove(id: string): void {
			rows.need(id);
			db.update(projects).set({ deletedAt: Date.now() }).where(eq(projects.id, id)).run();
		},

		restore(id: string): void {
			if (db.update(projects).set({ deletedAt: null }).where(eq(projects.id, id)).run().changes === 0)
				throw new StoreError('not-found', 'There is no such project to bring back.');
		},
	};
}
