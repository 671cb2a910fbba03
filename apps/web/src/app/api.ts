import type { Asset, Id, Project } from '@eppu/core/document';

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
	readonly kind: 'tip' | 'stencil' | 'reference' | 'preset' | 'palette' | 'recipe';
	readonly name: string;
}

/** A call that failed, in the server's words or ours. */
export class ApiError extends Error {
	override readonly name = 'ApiError';
}

async function call(path: string, init?: RequestInit): Promise<Response> {
	let response: Response;
	try {
		response = await fetch(`/api${path}`, init);
	} catch {
		throw new ApiError('The server is away. Start it again and try once more.');
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
	/** Makes a project together with the files that it names. */
	async create(
		project: Project,
		files: readonly { readonly name: string; readonly bytes: Uint8Array }[],
	): Promise<void> {
		const head = new TextEncoder().encode(
			JSON.stringify({ project, files: files.map(({ name, bytes }) => ({ name, length: bytes.length })) }),
		);
		const length = new Uint8Array(4);
		new DataView(length.buffer).setUint32(0, head.length, true);
		await call('/projects', {
			method: 'POST',
			headers: { 'Content-Type': 'application/octet-stream' },
			body: new Blob([length, head, ...files.map(({ bytes }) => bytes.slice())]),
		});
	},
};

export const coverUrl = (card: ProjectCard): string =>
	`/api/projects/${card.id}/cover?r=${card.revision}-${card.updatedAt}`;
export const fileUrl = (project: Id, asset: Asset): string => `/api/projects/${project}/files/${asset.hash}`;

/** SHA-256 of bytes, hex. */
export async function hashOf(bytes: Uint8Array): Promise<string> {
	const digest = await crypto.subtle.digest('SHA-256', bytes.slice());
	return Array.from(new Uint8Array(digest), (b) => b.toString(16).padStart(2, '0')).join('');
}
