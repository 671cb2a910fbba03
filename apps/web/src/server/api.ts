import type { Asset, Id, Project } from '@eppu/core/document';
import { type PackedTile, writePack } from '@eppu/core/format';
import { joined } from '@eppu/core/surface';

export interface ProjectCard {
	readonly id: Id;
	readonly name: string;
	readonly revision: number;
	readonly updatedAt: number;
	readonly deletedAt: number | null;
	readonly hasCover: boolean;
}

/** What is kept for all projects. */
export interface LibraryItem {
	readonly id: string;
	readonly kind: 'tip' | 'stencil' | 'reference' | 'pinned' | 'preset' | 'palette' | 'recipe' | 'light' | 'order';
	readonly name: string;
}

/** A call that failed, in the server's words or ours. */
export class ApiError extends Error {
	override readonly name = 'ApiError';
	/** The network or the server is not there at all. */
	readonly away: boolean;
	constructor(text: string, away = false) {
		super(text);
		this.away = away;
	}
}

/** Longest wait for an answer, and for one that takes a large body. */
const WAIT_MS = 30_000;
const LARGE_WAIT_MS = 300_000;

/** Asks the server for something; throws ApiError in words. */
export async function call(path: string, init?: RequestInit): Promise<Response> {
	let response: Response;
	try {
		const wait = init?.body instanceof Blob ? LARGE_WAIT_MS : WAIT_MS;
		response = await fetch(`/api${path}`, { ...init, signal: AbortSignal.timeout(wait) });
	} catch (error) {
		if (error instanceof DOMException && error.name === 'TimeoutError')
			throw new ApiError('The server does not answer. It may be busy: try once more.');
		throw new ApiError('The server is away. Start it again and try once more.', true);
	}
	if (response.ok) return response;
	const answer = (await response.json().catch(() => null)) as { text?: string } | null;
	throw new ApiError(answer?.text ?? 'The server could not do that.');
}

const json = (method: string, value: unknown): RequestInit => ({
	method,
	headers: { 'Content-Type': 'application/json' },
	body: JSON.stringify(value),
});

export const api = {
	projects: async (deleted = false): Promise<ProjectCard[]> =>
		(await call(`/projects${deleted ? '?deleted=1' : ''}`)).json(),
	rename: (id: Id, name: string) => call(`/projects/${id}`, json('PATCH', { name })),
	copy: (id: Id, name: string) => call(`/projects/${id}/copy`, json('POST', { id: crypto.randomUUID(), name })),
	remove: (id: Id) => call(`/projects/${id}`, { method: 'DELETE' }),
	restore: (id: Id) => call(`/projects/${id}/restore`, { method: 'POST' }),
	library: async (): Promise<LibraryItem[]> => (await call('/library')).json(),
	libraryBody: async (id: string): Promise<Uint8Array> =>
		new Uint8Array(await (await call(`/library/${id}`)).arrayBuffer()),
	putLibrary: ({ id, kind, name }: LibraryItem, body: Uint8Array) =>
		call(`/library/${id}?kind=${kind}&name=${encodeURIComponent(name)}`, {
			method: 'PUT',
			headers: { 'Content-Type': 'application/octet-stream' },
			body: body.slice(),
		}),
	removeLibrary: (id: string) => call(`/library/${id}`, { method: 'DELETE' }),
	/** Keeps a file that the project is about to name; gives its hash. */
	putFile: async (id: Id, name: string, bytes: Uint8Array): Promise<string> =>
		(
			(await (
				await call(`/projects/${id}/files?name=${encodeURIComponent(name)}`, {
					method: 'POST',
					headers: { 'Content-Type': 'application/octet-stream' },
					body: new Blob([bytes.slice()]),
				})
			).json()) as { hash: string }
		).hash,
	/** Makes a project together with the files that it names. */
	create: (
		project: Project,
		files: readonly { readonly name: string; readonly bytes: Uint8Array }[],
		tiles: readonly PackedTile[] = [],
	) =>
		api.createFrom(
			writePack({
				head: { project, files: files.map(({ name, bytes }) => ({ name, length: bytes.length })) },
				tiles,
				files: joined(files.map(({ bytes }) => bytes)),
			}),
		),
	/** Makes a project from a pack of it: with its tiles, as it was saved as a file. */
	createFrom: (pack: Uint8Array<ArrayBuffer>) =>
		call('/projects', {
			method: 'POST',
			headers: { 'Content-Type': 'application/octet-stream' },
			body: new Blob([pack]),
		}),
};

export const coverUrl = (card: ProjectCard): string =>
	`/api/projects/${card.id}/cover?r=${card.revision}-${card.updatedAt}`;
export const fileUrl = (project: Id, asset: Asset): string => `/api/projects/${project}/files/${asset.hash}`;

/** SHA-256 of bytes, hex. */
export async function hashOf(bytes: Uint8Array): Promise<string> {
	const digest = await crypto.subtle.digest('SHA-256', bytes.slice());
	return Array.from(new Uint8Array(digest), (b) => b.toString(16).padStart(2, '0')).join('');
}
