import type { Id } from '@eppu/core/document';
import { zipOf } from '@eppu/core/format';
import { usualModelOrder } from '@eppu/core/handoff';
import type { NamedFile } from '@eppu/core/mesh';
import { toast } from 'sonner';
import { saveFile } from '../server/library.ts';
import { allKept } from '../studio/allKept.ts';
import { layersIn, modelOut } from '../studio/line.ts';
import { activeSheet, useStudio } from '../studio/store.ts';
import { type OutFolder, writeInto } from './outFolder.ts';

/** What went out of a project: when, what, and as which files. */
export interface HandedOff {
	readonly at: number;
	readonly what: string;
	readonly files: readonly { readonly path: string; readonly bytes: number }[];
	/** The name under which the browser saved it. */
	readonly where: string;
}

const stored = (project: Id): string => `eppu-handed-off ${project}`;
/** So many are remembered. */
const MOST = 30;

/** What went out of a project from this browser, the latest first. */
export function handedOff(project: Id): readonly HandedOff[] {
	try {
		const list = JSON.parse(localStorage.getItem(stored(project)) ?? '[]') as unknown;
		return Array.isArray(list) ? (list as HandedOff[]) : [];
	} catch {
		return [];
	}
}

function remember(project: Id, entry: HandedOff): void {
	try {
		localStorage.setItem(stored(project), JSON.stringify([entry, ...handedOff(project)].slice(0, MOST)));
	} catch {
		// A browser that keeps nothing remembers nothing.
	}
}

const lastPart = (path: string): string => path.split('/').at(-1) ?? path;

/**
 * Has the browser save files: one as it is, several as one ZIP, or one after the other, their folders put before their
 * names. What went out is remembered.
 */
export function deliver(files: readonly NamedFile[], name: string, what: string, together = true): string {
	const [first] = files;
	if (!first) return 'Nothing was written.';
	const alone = files.length === 1;
	const where = alone ? lastPart(first[0]) : together ? `${name}.zip` : `${files.length} files`;
	if (alone) saveFile(where, new Blob([first[1]]));
	else if (together) saveFile(where, new Blob([zipOf(files.map(([path, bytes]) => [path, bytes] as const))]));
	else for (const [path, bytes] of files) saveFile(path.replaceAll('/', ' - '), new Blob([bytes]));
	wentOut(files, where, what);
	return where;
}

/** Writes files into a folder that the artist chose; what went out is remembered. Throws in words how far it came. */
export async function deliverInto(folder: OutFolder, files: readonly NamedFile[], what: string): Promise<string> {
	await writeInto(folder, files);
	wentOut(files, folder.name, what);
	return folder.name;
}

function wentOut(files: readonly NamedFile[], where: string, what: string): void {
	const project = useStudio.getState().outline?.project.id;
	if (project)
		remember(project, {
			at: Date.now(),
			what,
			files: files.map(([path, bytes]) => ({ path, bytes: bytes.length })),
			where,
		});
}

/** Writes every model that lies on the active sheet, with its picture, as it lies now. */
export async function saveModels(as: 'glb' | 'obj'): Promise<void> {
	const state = useStudio.getState();
	const sheet = activeSheet(state)?.id;
	for (const model of state.outline?.project.models ?? []) {
		if (!model.parts.some((part) => part.sheet === sheet)) continue;
		const textures = as === 'glb' ? 'inside' : 'beside';
		const { files, text } = await modelOut(model.id, { ...usualModelOrder, as, textures });
		if (files.length) deliver(files, model.name, `Model ${model.name}`);
		else toast.error(`${model.name}: ${text}`);
	}
}

/** So long it is waited until what came in is kept, ms. */
const MOST_KEEPING_MS = 6000;

/** Takes layers in from an OpenRaster file, into a sheet or as one more; says what came otherwise. */
export async function takeLayersIn(file: File, sheet: Id | null): Promise<void> {
	const project = useStudio.getState().outline?.project.id;
	const { text, notes } = await layersIn(sheet, file.name, new Uint8Array(await file.arrayBuffer()));
	if (text || !project) return void toast.error(text ?? 'There is no project open.');
	// What was said to be here is here after whatever happens to this tab.
	const kept = await allKept(project, MOST_KEEPING_MS);
	const words = kept
		? [`${file.name} is here.`]
		: [`${file.name} is here, and not kept yet: the server is away or busy.`];
	toast([...words, ...notes].join(' '), { duration: notes.length || !kept ? 15000 : 4000 });
}

export const kilobytes = (bytes: number): string =>
	bytes < 1_000_000 ? `${Math.max(1, Math.round(bytes / 1000))} KB` : `${(bytes / 1_000_000).toFixed(1)} MB`;
