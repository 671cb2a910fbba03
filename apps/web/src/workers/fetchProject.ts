import type { Desk, Id, KeptTile, Project } from '@eppu/core/document';
import { currentDesk, desksProblem, projectProblem } from '@eppu/core/document';
import { inflateTexels, readPack } from '@eppu/core/format';
import { type Mesh, readModel } from '@eppu/core/mesh';

/** A project that cannot be opened; the text says why and what to do. */
export class OpenError extends Error {
	override readonly name = 'OpenError';
	readonly gone: boolean;
	constructor(text: string, gone = false) {
		super(text);
		this.gone = gone;
	}
}

export interface FetchedProject {
	readonly project: Project;
	readonly desk: Desk | null;
	readonly revision: number;
	readonly tiles: readonly KeptTile[];
	readonly meshes: ReadonlyMap<Id, Mesh>;
}

async function bytesOf(url: string): Promise<Uint8Array> {
	let response: Response;
	try {
		response = await fetch(url);
	} catch {
		throw new OpenError(
			'The server is away, so the project cannot be read. Start it again; then open the project anew.',
		);
	}
	if (response.ok) return new Uint8Array(await response.arrayBuffer());
	const answer = (await response.json().catch(() => null)) as { text?: string } | null;
	throw new OpenError(answer?.text ?? 'The server could not give the project.', response.status === 404);
}

/** A project from the server: its document, its tiles unpacked, and its models read. */
export async function fetchProject(id: Id): Promise<FetchedProject> {
	const pack = readPack<{ project: Project; desk: unknown; revision: number }>(await bytesOf(`/api/projects/${id}`));
	const { project, revision } = pack.head;
	const problem = projectProblem(project);
	if (problem) throw new OpenError(problem);
	const kept = currentDesk(pack.head.desk);
	const desk = desksProblem(kept) === null ? (kept as Desk) : null;
	let next = 0;
	const tiles = pack.tiles.map((tile): KeptTile => {
		const blob = tile.value === null ? pack.blobs[next++] : undefined;
		return { surface: tile.surface, index: tile.index, value: tile.value, texels: blob ? inflateTexels(blob) : null };
	});
	const meshes = new Map<Id, Mesh>();
	for (const model of project.models) {
		const read = await readModel(await bytesOf(`/api/projects/${id}/files/${model.asset.hash}`), model.asset.name);
		if (!read.ok) throw new OpenError(read.error.text);
		meshes.set(model.id, read.mesh);
	}
	return { project, desk, revision, tiles, meshes };
}
