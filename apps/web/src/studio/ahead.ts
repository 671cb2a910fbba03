import type { Desk, Id, Project } from '@eppu/core/document';

/** What a project is without its texels: enough to draw the page by. */
export interface Head {
	readonly project: Project;
	readonly desk: Desk;
}

const WAIT_MS = 10_000;
let coming: Promise<Head | null> = Promise.resolve(null);

/** Asks for the head of the project that is being opened, while the workers begin. */
export function askHead(id: Id): void {
	coming = fetch(`/api/projects/${id}/head`, { signal: AbortSignal.timeout(WAIT_MS) })
		.then((answer) => (answer.ok ? (answer.json() as Promise<Head | null>) : null))
		// Then the studio says it, and what is wrong.
		.catch(() => null);
}

/** The head that was asked for last; null where there is none. */
export const headAsked = (): Promise<Head | null> => coming;
