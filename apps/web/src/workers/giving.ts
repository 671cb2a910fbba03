import type { Project } from '@eppu/core/document';
import { readPack, writePack } from '@eppu/core/format';
import type { Entry } from '../studio/journal.ts';

/** What came of giving a save to the server. */
export type Given =
	| { readonly done: 'given'; readonly revision: number; readonly name: string }
	/** The project went on without this one. */
	| { readonly done: 'conflict' }
	/** It may go well later: the pause asked for, if any, in ms. */
	| { readonly done: 'later'; readonly why: string; readonly pause?: number }
	/** It will never go well as it is. */
	| { readonly done: 'refused'; readonly why: string };

/** Bytes that a connection is trusted to carry in a second before it counts as gone. */
const SLOW = 256 * 1024;
export const limitFor = (bytes: number): AbortSignal => AbortSignal.timeout(Math.ceil(20_000 + (bytes / SLOW) * 1000));

interface Answer {
	readonly code?: string;
	readonly text?: string;
	readonly revision?: number;
	readonly name?: string;
}

/** Reads an answer's status as what it is; only a network that is away is "away". */
export function readAnswer(status: number, answer: Answer | null, retryAfter: string | null): Given {
	const why = answer?.text ?? '';
	if (status >= 200 && status < 300 && answer?.revision !== undefined)
		return { done: 'given', revision: answer.revision, name: answer.name ?? '' };
	if (status === 409) return { done: 'conflict' };
	if (status === 507) return { done: 'later', why: 'the disk of the server is full' };
	if (status === 429)
		return { done: 'later', why: 'the server asks for a pause', pause: Math.max(1, Number(retryAfter) || 5) * 1000 };
	if (status === 401) return { done: 'later', why: 'the server asks for its token: open the address that it printed' };
	if (status === 404) return { done: 'refused', why: why || 'The project was deleted elsewhere.' };
	if (status >= 500 || (status >= 200 && status < 300))
		return { done: 'later', why: 'the server failed at it (its log says more)' };
	return { done: 'refused', why: why || 'The server does not take it.' };
}

/** Gives one entry to the server. */
export async function give(entry: Entry): Promise<Given> {
	try {
		const response = await fetch(`/api/projects/${entry.project}/revisions/${entry.base + 1}`, {
			method: 'PUT',
			headers: { 'Content-Type': 'application/octet-stream' },
			body: entry.pack,
			signal: limitFor(entry.pack.length),
		});
		const answer = (await response.json().catch(() => null)) as Answer | null;
		return readAnswer(response.status, answer, response.headers.get('Retry-After'));
	} catch (error) {
		const slow = error instanceof DOMException && error.name === 'TimeoutError';
		return { done: 'later', why: slow ? 'the server does not answer' : 'the server is away' };
	}
}

/** The entry as a save of another project, over revision `base` of it. */
export function readdressed(entry: Entry, to: { readonly id: string; readonly name: string }, base: number): Entry {
	const { head, tiles } = readPack<{ project: Project; save: string }>(entry.pack);
	const project = { ...head.project, id: to.id, name: to.name };
	return { ...entry, project: to.id, name: to.name, base, pack: writePack({ head: { ...head, project }, tiles }) };
}

/** What of the server's a project is now, or null where it does not say. */
export async function cardOf(project: string): Promise<{ readonly name: string; readonly revision: number } | null> {
	try {
		const response = await fetch('/api/projects', { signal: limitFor(0) });
		const cards = (await response.json()) as { id: string; name: string; revision: number }[];
		return (response.ok && cards.find(({ id }) => id === project)) || null;
	} catch {
		return null;
	}
}

/** Makes the copy as which what begins with `first` goes on; asked for again it is the same one. */
export async function copyFor(
	first: Pick<Entry, 'project' | 'name' | 'save' | 'base'>,
): Promise<{ readonly id: string; readonly name: string; readonly exact: boolean } | Given> {
	const id = `here-${first.save}`;
	const name = `${first.name.replace(/ \(painted here\)$/, '').slice(0, 100)} (painted here)`;
	try {
		const response = await fetch(`/api/projects/${first.project}/copy`, {
			method: 'POST',
			headers: { 'Content-Type': 'application/json' },
			body: JSON.stringify({ id, name, revision: first.base }),
			signal: limitFor(0),
		});
		const answer = (await response.json().catch(() => null)) as (Answer & { exact?: boolean }) | null;
		if (response.ok) return { id, name, exact: answer?.exact !== false };
		return readAnswer(response.status, answer, response.headers.get('Retry-After'));
	} catch {
		return { done: 'later', why: 'the server is away' };
	}
}
