import { type Desk, type Id, type Project, projectProblem } from '@eppu/core/document';
import type { KeptTile } from '@eppu/core/engine';
import { createPackReader, type PackedTile, readPack } from '@eppu/core/format';
import type { Pool, ReadMeshWork } from '@eppu/core/jobs';
import { type LaidMesh, readModel } from '@eppu/core/mesh';
import type { HeldPack } from '../studio/told.ts';
import type { Inflating, Inflation } from './inflating.ts';

/** A project that cannot be opened; the text says why and what to do. */
export class OpenError extends Error {
	override readonly name = 'OpenError';
	readonly why: 'gone' | 'away' | 'broken';
	constructor(text: string, why: OpenError['why'] = 'broken') {
		super(text);
		this.why = why;
	}
}

export interface FetchedProject {
	readonly project: Project;
	readonly desk: Desk | null;
	readonly revision: number;
	/** The save that led to it, the server's or one that is laid over it. */
	readonly save: string | null;
	readonly meshes: ReadonlyMap<Id, LaidMesh>;
	/** The files that the project names, by their hash. */
	readonly files: ReadonlyMap<string, Uint8Array<ArrayBuffer>>;
	/** Its tiles as they come, some at a time: the server's, and over them those that it has not taken. */
	tiles(): AsyncGenerator<KeptTile[]>;
}

interface Head {
	readonly project: Project;
	/** What the server finds wrong with it, in words. */
	readonly problem: string | null;
	/** Null where there is none that is whole. */
	readonly desk: Desk | null;
	readonly revision: number;
	/** The save that made the revision. */
	readonly save: string | null;
}

/** A connection that brings nothing for so long is given up. */
const SILENCE_MS = 30_000;

async function ask(url: string, signal?: AbortSignal): Promise<Response> {
	let response: Response;
	try {
		response = await fetch(url, signal ? { signal } : {});
	} catch {
		throw new OpenError(
			'The server is away, so the project cannot be read. It opens by itself once it is back.',
			'away',
		);
	}
	if (response.ok) return response;
	const answer = (await response.json().catch(() => null)) as { text?: string } | null;
	throw new OpenError(
		answer?.text ?? 'The server could not give the project.',
		response.status === 404 ? 'gone' : 'broken',
	);
}

/** A file that a project names, or is about to. */
export const fileOf = (project: Id, hash: string): Promise<Uint8Array<ArrayBuffer>> =>
	bytesOf(`/api/projects/${project}/files/${hash}`);

/** Bytes of a file as they come; a connection that falls silent is told as the server being away. */
async function* piecesOf(url: string): AsyncGenerator<Uint8Array<ArrayBuffer>> {
	const stop = new AbortController();
	let timer = setTimeout(() => stop.abort(), SILENCE_MS);
	try {
		const reader = ((await ask(url, stop.signal)).body as ReadableStream<Uint8Array<ArrayBuffer>>).getReader();
		while (true) {
			const { done, value } = await reader.read();
			clearTimeout(timer);
			timer = setTimeout(() => stop.abort(), SILENCE_MS);
			if (done) return;
			yield value;
		}
	} catch (error) {
		if (error instanceof OpenError) throw error;
		throw new OpenError('The server went away while the project was read. It opens by itself once it is back.', 'away');
	} finally {
		clearTimeout(timer);
	}
}

async function bytesOf(url: string): Promise<Uint8Array<ArrayBuffer>> {
	const pieces: BlobPart[] = [];
	for await (const piece of piecesOf(url)) pieces.push(piece);
	return new Uint8Array(await new Blob(pieces).arrayBuffer());
}

/** Packed tiles that come by themselves: they are inflated as they come, while what is done here is something else. */
function arriving(
	pieces: AsyncGenerator<Uint8Array<ArrayBuffer>>,
	reader: ReturnType<typeof createPackReader>,
	early: readonly PackedTile[],
	inflating: Inflating,
): { tiles(): AsyncGenerator<KeptTile[]> } {
	const begun: Inflation[] = [inflating.begin(early)];
	let ended = false;
	let problem: unknown = null;
	let wake = (): void => {};
	void (async () => {
		try {
			for await (const piece of pieces) {
				const tiles = reader.push(piece).flatMap((part) => (part.part === 'tiles' ? part.tiles : []));
				if (tiles.length) begun.push(inflating.begin(tiles));
				wake();
			}
			try {
				reader.end();
			} catch {
				throw new OpenError(
					'The server went away while the project was read. It opens by itself once it is back.',
					'away',
				);
			}
		} catch (error) {
			problem = error;
		} finally {
			ended = true;
			wake();
		}
	})();
	return {
		async *tiles() {
			while (true) {
				const next = begun.shift();
				if (next) yield await next.help();
				else if (problem) throw problem;
				else if (ended) return;
				else
					await new Promise<void>((resolve) => {
						wake = resolve;
					});
			}
		},
	};
}

/**
 * A project from the server: its document, its models read, and its tiles as they come. `held` are packs that the
 * server has not taken: what is opened is never older than they are. `heads` hears of the document before all else of it
 * is here.
 */
export async function fetchProject(
	id: Id,
	held: readonly HeldPack[],
	inflating: Inflating,
	pool: () => Pool | null,
	heads: (project: Project, desk: Desk | null) => void,
): Promise<FetchedProject> {
	const reader = createPackReader<Head>();
	const pieces = piecesOf(`/api/projects/${id}?texels=bare`);
	const early: PackedTile[] = [];
	let head: Head | null = null;
	while (!head) {
		const { done, value } = await pieces.next();
		if (done) throw new OpenError('The server sent less than the project. Open it again.');
		for (const part of reader.push(value))
			if (part.part === 'head') ({ head } = part);
			else if (part.part === 'tiles') early.push(...part.tiles);
	}
	// A save whose answer was lost is in what the server sends already, and so are those before it.
	const taken = held.findIndex((each) => each.save === head?.save);
	const packs = held.slice(taken + 1);
	const last = packs.at(-1);
	const project = last ? readPack<{ project: Project }>(last.pack).head.project : head.project;
	const problem = last ? projectProblem(project) : head.problem;
	if (problem) throw new OpenError(problem);
	const { desk } = head;
	heads(project, desk);
	const files = new Map<string, Uint8Array<ArrayBuffer>>();
	const meshes = new Map<Id, LaidMesh>();
	const coming = arriving(pieces, reader, early, inflating);
	const fetched = await Promise.all(project.models.map(({ asset }) => fileOf(id, asset.hash)));
	await Promise.all(
		project.models.map(async (model, i) => {
			const bytes = fetched[i] as Uint8Array<ArrayBuffer>;
			files.set(model.asset.hash, bytes);
			const { name } = model.asset;
			// The first is read here: whoever reads others beside it has to begin first.
			const beside = i > 0 ? await pool()?.do({ job: 'read-mesh', bytes, name } as ReadMeshWork) : null;
			const read = beside ?? (await readModel(bytes, name));
			if (!read.ok) throw new OpenError(read.error.text);
			meshes.set(model.id, read.mesh);
		}),
	);
	return {
		project,
		desk,
		revision: head.revision,
		save: last?.save ?? head.save,
		meshes,
		files,
		async *tiles() {
			yield* coming.tiles();
			for (const { pack } of packs) yield inflating.begin(readPack(pack).tiles).help();
		},
	};
}
