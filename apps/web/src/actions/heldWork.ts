import type { Project } from '@eppu/core/document';
import { openZip, PackError, readPack, writePack } from '@eppu/core/format';
import { joined } from '@eppu/core/surface';
import { api } from '../server/api.ts';
import { saveFile } from '../server/library.ts';
import { type Entry, journal } from '../studio/journal.ts';
import type { Said } from '../studio/protocol.ts';
import type { ReadWork } from './newProject.ts';

/** What this browser holds of a project that the server has not kept. */
export interface HeldWork {
	readonly project: string;
	readonly name: string;
	readonly words: string;
}

/** Everything that this browser holds; nothing where its storage cannot be read. */
export async function heldHere(): Promise<HeldWork[]> {
	try {
		const [entries, said] = [await journal.held(), await journal.heldSaid()];
		const ids = new Set([...entries.map((entry) => entry.project), ...said]);
		return await Promise.all(
			[...ids].map(async (project) => {
				const own = entries.filter((entry) => entry.project === project);
				const begun = (await journal.said(project)).filter(({ message }) => message.say === 'begin').length;
				const strokes = own.reduce((sum, entry) => sum + entry.strokes, begun);
				return {
					project,
					name: own.at(-1)?.name ?? 'A project',
					words: strokes === 0 ? 'changes' : strokes === 1 ? '1 stroke' : `${strokes} strokes`,
				};
			}),
		);
	} catch {
		return [];
	}
}

/** The head of a file of held work: the packs themselves follow as its files. */
interface HeldHead {
	readonly held: {
		readonly project: string;
		readonly name: string;
		readonly entries: readonly (Omit<Entry, 'pack' | 'project'> & { readonly length: number })[];
		readonly said: readonly Said[];
	};
}

/** Writes what this browser holds of a project as a file. */
export async function saveHeld(project: string): Promise<void> {
	const entries = await journal.entries(project);
	const name = entries.at(-1)?.name ?? 'Work';
	const head: HeldHead = {
		held: {
			project,
			name,
			entries: entries.map(({ pack, project: _, ...entry }) => ({ ...entry, length: pack.length })),
			said: (await journal.said(project)).map(({ n, message }) => ({ n, message })),
		},
	};
	const bytes = writePack({ head, files: joined(entries.map((entry) => entry.pack)) });
	saveFile(`${name.replace(/[^\p{L}\p{N} _-]+/gu, '-')} (held).eppu`, new Blob([bytes]));
}

export type WorkFile =
	| { readonly ok: true; readonly project: string; readonly words: string }
	| { readonly ok: false; readonly text: string };

/** Reads a file of ours: a whole project becomes a new one; held work is given to the project that it belongs to. */
export async function readWorkFile(file: File): Promise<WorkFile> {
	if (!/\.eppu$/i.test(file.name)) return readOpenFile(file);

	let pack: ReturnType<
		typeof readPack<Partial<HeldHead> & { project?: Project; files?: { name: string; length: number }[] }>
	>;
	try {
		pack = readPack(new Uint8Array(await file.arrayBuffer()));
	} catch (error) {
		if (!(error instanceof PackError)) throw error;
		return { ok: false, text: `${file.name} is not work saved by Eppu, or it is damaged. ${error.message}` };
	}
	const { head, tiles, files } = pack;
	if (head.project) {
		const project = { ...head.project, id: crypto.randomUUID() };
		await api.createFrom(writePack({ head: { ...head, project }, tiles, files }));
		return { ok: true, project: project.id, words: `"${project.name}" is here again, as a project of its own.` };
	}
	if (!head.held) return { ok: false, text: `${file.name} holds no work.` };
	const { project, name, entries, said } = head.held;
	let at = 0;
	for (const { length, ...entry } of entries) {
		const bytes = files.slice(at, at + length);
		at += length;
		await journal.write({ ...entry, project, pack: bytes }, 0);
	}
	for (const each of said) await journal.say(project, each);
	return { ok: true, project, words: `What was held of "${name}" is given back.` };
}

/** Whether a whole project comes from a file: work of ours, a picture in layers, a project as an open ZIP. */
export async function holdsWork(file: File): Promise<boolean> {
	if (/\.(eppu|ora)$/i.test(file.name)) return true;
	if (!/\.zip$/i.test(file.name)) return false;
	const zip = openZip(new Uint8Array(await file.arrayBuffer()), file.name);
	return typeof zip !== 'string' && zip.files.some(({ path }) => path === 'project.json');
}

/** A project made of a picture in layers, or of a project as an open ZIP; read in a worker of its own. */
async function readOpenFile(file: File): Promise<WorkFile> {
	const worker = new Worker(new URL('../workers/work.worker.ts', import.meta.url), { type: 'module' });
	const read = await new Promise<ReadWork | { readonly text: string }>((resolve) => {
		worker.onmessage = ({ data }) => resolve(data);
		worker.onerror = () =>
			resolve({ text: `${file.name} could not be read: it needs more memory than this browser gives.` });
		void file.arrayBuffer().then((bytes) => worker.postMessage({ bytes: new Uint8Array(bytes), name: file.name }));
	});
	worker.terminate();
	if ('text' in read) return { ok: false, text: read.text };
	const { project, tiles, files, pictures, notes } = read;
	const known = new Set((await api.library()).map(({ id }) => id));
	for (const { id, bytes } of pictures)
		if (!known.has(id))
			await api.putLibrary({ id, kind: 'stencil', name: `From ${project.name}`.slice(0, 120) }, bytes);
	await api.create(project, files, tiles);
	const words = `"${project.name}" is here, as a project of its own.`;
	return { ok: true, project: project.id, words: [words, ...notes].join(' ') };
}
