import { cleanNameProblem, type Project, projectProblem } from '@eppu/core/document';
import { and, eq, isNull } from 'drizzle-orm';
import type { Database } from './database.ts';
import { StoreError } from './error.ts';
import { blobs, projects, revisions } from './schema.ts';
import { sha256 } from './tiles.ts';

/** A project that holds and has a good name; throws StoreError else. */
export const checked = (project: unknown): Project => {
	const problem = projectProblem(project) ?? cleanNameProblem((project as Project).name);
	if (problem) throw new StoreError('bad-input', problem);
	return project as Project;
};

/** What everyone who keeps projects asks of their rows. */
export function projectRows(db: Database) {
	const putFile = (hash: string, bytes: Buffer): void => {
		db.insert(blobs).values({ hash, bytes }).onConflictDoNothing().run();
	};
	return {
		putFile,
		/** The row of a project that is not deleted; throws StoreError. */
		need(id: string) {
			const row = db
				.select({ revision: projects.revision, document: projects.document, desk: projects.desk })
				.from(projects)
				.where(and(eq(projects.id, id), isNull(projects.deletedAt)))
				.get();
			if (!row) throw new StoreError('not-found', 'There is no such project here. It may have been deleted.');
			return row;
		},
		/** Notes what a revision is. */
		noteRevision(project: Project, revision: number, save: string, content: string, at: number): void {
			const text = Buffer.from(JSON.stringify(project));
			const document = sha256(text);
			putFile(document, text);
			db.insert(revisions).values({ project: project.id, revision, save, content, document, at }).run();
		},
		/** Throws StoreError where a project has the id already. */
		needFree(id: string): void {
			if (db.select({ id: projects.id }).from(projects).where(eq(projects.id, id)).get())
				throw new StoreError('conflict', 'A project with this id is here already.');
		},
	};
}
export type ProjectRows = ReturnType<typeof projectRows>;
