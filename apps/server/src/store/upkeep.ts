import { type Project, projectProblem, surfacesOfProject } from '@eppu/core/document';
import { eq, lt, sql } from 'drizzle-orm';
import type { OpenDatabase } from './database.ts';
import { assets, blobs, pastTiles, projects, revisions } from './schema.ts';
import { sha256, shapesOf, tileProblems, tilesOf, withTexels } from './tiles.ts';

const DAY_MS = 24 * 3600 * 1000;
/** Deleted projects come back for this long. */
const KEPT_DELETED_MS = 30 * DAY_MS;
/** What a project was is remembered for this long: what undo may bring back, and what a browser that was away goes out from. */
const KEPT_PAST_MS = 14 * DAY_MS;

const surfacesNamed = (document: string): string[] =>
	surfacesOfProject(JSON.parse(document) as Project).map((each) => each.id);

/** Whether what is kept is whole, and letting go of what is not wanted any more. */
export function upkeep({ db, transact, pragma }: OpenDatabase) {
	return {
		/** What the database's own checks find: words, none where it is whole. */
		problems: (): string[] => [
			...pragma('integrity_check')
				.flatMap((row) => Object.values(row).map(String))
				.filter((words) => words !== 'ok'),
			...pragma('foreign_key_check').map((row) => `A row of "${row.table}" lost what it belongs to.`),
		],

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
