import { CommandError, eachLayer, type Layer } from '@eppu/core/document';
import type { Engine } from '@eppu/core/engine';
import {
	type ExchangeWhat,
	OrderError,
	type ReadSaving,
	readSaving,
	type Taken,
	takeExchange,
	writeExchange,
} from '@eppu/core/handoff';
import { OpenRasterError } from '@eppu/core/openraster';
import type { PngReader } from '@eppu/kernels';
import { loadPngReader, loadPngWriter } from '@eppu/kernels/node';
import { type ExchangeFolder, exchangeFolder, exchangePath, type OutState } from '@eppu/server/exchange';
import { dataFile, packDelta, type Store, StoreError } from '@eppu/server/store';
import { CliError, cardOf, open, openKept, sheetsNamed } from './commands.ts';

/** How often the folder is looked at while something in it is being written, ms. */
const LOOK_MS = 120;
/** So long it is waited before what the disk had no room for is tried again, ms. */
const FULL_MS = 2000;
/** So often a save is tried again that another's came before. */
const TRIES = 5;

interface ExchangeOptions {
	readonly project: string;
	readonly data?: string | undefined;
}

/** Does something with a project and the exchange folder of its data file; both are let go of afterwards. */
async function withFolder<T>(
	{ project, data }: ExchangeOptions,
	work: (store: Store, folder: ExchangeFolder, id: string) => Promise<T>,
): Promise<T> {
	const store = open(data);
	const folder = exchangeFolder(store, exchangePath(data ?? dataFile()), (error) => console.error(error));
	try {
		return await work(store, folder, cardOf(store, project).id);
	} catch (error) {
		const told = [CommandError, OrderError, OpenRasterError, StoreError].some((kind) => error instanceof kind);
		throw told ? new CliError((error as Error).message) : error;
	} finally {
		folder.stop();
		store.close();
	}
}

/** The layer of a name on a sheet. */
function layerNamed(layers: readonly Layer[], sheet: string, name: string): Layer {
	const all = [...eachLayer(layers)];
	const found = all.find((layer) => layer.name.toLowerCase() === name.toLowerCase());
	if (found) return found;
	throw new CliError(`"${sheet}" has no layer "${name}". It has: ${all.map((layer) => layer.name).join(', ')}.`);
}

/**
 * Sends a sheet, or one of its layers or masks, out to another editor: its file is in the exchange folder, and what is
 * saved there can be taken in.
 */
export const sendOut = (
	options: ExchangeOptions & {
		readonly sheet?: string | undefined;
		readonly layer?: string | undefined;
		readonly mask?: string | undefined;
	},
): Promise<OutState & { readonly folder: string; readonly notes: readonly string[] }> =>
	withFolder(options, async (store, folder, id) => {
		if (options.layer !== undefined && options.mask !== undefined)
			throw new CliError('Name a layer or a mask, not both: each is a file of its own.');
		const engine = await openKept(store, id);
		try {
			const [sheet] = sheetsNamed(engine, engine.project, options.sheet);
			if (!sheet) throw new CliError(`"${engine.project.name}" has no sheets.`);
			const name = options.layer ?? options.mask;
			const what: ExchangeWhat =
				name === undefined
					? { of: 'sheet', sheet: sheet.id }
					: {
							of: options.layer === undefined ? 'mask' : 'layer',
							sheet: sheet.id,
							layer: layerNamed(sheet.layers, sheet.name, name).id,
						};
			const made = writeExchange(engine, what, await loadPngWriter());
			return { ...folder.send(id, what, made.name, made.bytes), folder: folder.path, notes: made.notes };
		} finally {
			engine.close();
		}
	});

/** What is out of a project, looked at now. */
export const whatIsOut = (options: ExchangeOptions): Promise<readonly OutState[]> =>
	withFolder(options, async (_store, folder, id) => {
		await looked(folder);
		return folder.states(id);
	});

/** Calls back what is out under a file's name. Its file goes, unless it holds what was never taken in. */
export const callBack = (options: ExchangeOptions & { readonly file: string }): Promise<{ readonly kept: boolean }> =>
	withFolder(options, async (_store, folder, id) => {
		const out = folder.states(id);
		const found = out.find(({ file }) => file === options.file);
		if (found) return folder.end(found.id);
		throw new CliError(`"${options.file}" is not out. These are: ${out.map(({ file }) => file).join(', ') || 'none'}.`);
	});

const rest = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** Looks at the folder until nothing in it is being written. */
async function looked(folder: ExchangeFolder): Promise<void> {
	for (folder.lookAtAll(); !folder.atRest(); folder.lookAtAll()) await rest(LOOK_MS);
}

/** A saving that was taken in, or why it was not. */
export interface TakenSaving {
	readonly file: string;
	readonly changed: boolean;
	readonly notes: readonly string[];
	/** It does not fit any more, and waits in the folder. */
	readonly refused?: string;
	/** It could not be kept yet, and is tried again. */
	readonly waits?: string;
}

/** What a saving is taken in by; null where a page took it in, or called it back, just now. */
function bytesOf({ exchanges }: Store, id: string, n: number) {
	try {
		return { sent: exchanges.sent(id), agreed: exchanges.agreed(id), saved: exchanges.saving(id, n) };
	} catch (error) {
		if (error instanceof StoreError && error.code === 'not-found') return null;
		throw error;
	}
}

/** What another editor saved of what went out, over what both sides agreed on, as one step of an open project. */
export function takeBytes(
	engine: Engine,
	what: ExchangeWhat,
	bytes: Readonly<Record<'sent' | 'agreed' | 'saved', Uint8Array>>,
	name: string,
	read: PngReader,
): Taken {
	const newId = () => crypto.randomUUID();
	const sent = readSaving(what, bytes.sent, name, read, newId);
	const [agreed, saved] = (['agreed', 'saved'] as const).map((each) =>
		readSaving(what, bytes[each], name, read, newId, sent),
	) as [ReadSaving, ReadSaving];
	return takeExchange(engine, what, agreed, saved, name, newId);
}

/**
 * Takes one saving in as a revision of its own: another's that came meanwhile is taken as a beginning. Null where it does
 * not wait any more.
 */
async function takeOne(store: Store, project: string, out: OutState, n: number): Promise<TakenSaving | null> {
	const bytes = bytesOf(store, out.id, n);
	if (!bytes) return null;
	const { exchanges } = store;
	const read = await loadPngReader();
	for (let tries = TRIES; ; tries--) {
		const { revision } = store.load(project);
		const engine: Engine = await openKept(store, project);
		try {
			const what = out.what as ExchangeWhat;
			const taken = takeBytes(engine, what, bytes, out.file, read);
			const delta = taken.changed ? engine.takeDelta() : null;
			const save = crypto.randomUUID();
			if (delta)
				store.save(project, { base: revision, save, content: save, project: delta.project, tiles: packDelta(delta) });
			exchanges.taken(out.id, n);
			return { file: out.file, changed: taken.changed, notes: taken.notes };
		} catch (error) {
			if (error instanceof StoreError && error.code === 'conflict' && tries > 0) continue;
			if ([CommandError, OrderError, OpenRasterError].some((kind) => error instanceof kind))
				return { file: out.file, changed: false, notes: [], refused: (error as Error).message };
			throw error;
		} finally {
			engine.close();
		}
	}
}

/**
 * Takes in what other editors saved of a project, oldest first, each as one revision, and tells of each. With `until` it
 * goes on, and takes each saving as soon as it is whole, until that says so; what the disk has no room for waits in the
 * folder meanwhile, and is tried again.
 */
export async function takeAll(
	store: Store,
	folder: ExchangeFolder,
	project: string,
	tell: (taken: TakenSaving) => void,
	until?: () => boolean,
): Promise<void> {
	const refused = new Set<string>();
	const full = new Set<string>();
	/** Null where another took it in; throws what a disk that is full says, where nobody waits for it to have room. */
	const take = async (out: OutState, n: number): Promise<TakenSaving | null> => {
		const key = `${out.id} ${n}`;
		try {
			const taken = await takeOne(store, project, out, n);
			if (taken?.refused) refused.add(key);
			return taken;
		} catch (error) {
			if (!until || !(error instanceof StoreError) || error.code !== 'disk-full') throw error;
			if (!full.has(key)) tell({ file: out.file, changed: false, notes: [], waits: error.message });
			full.add(key);
			await rest(FULL_MS);
			return null;
		}
	};
	do {
		await (until ? rest(LOOK_MS) : looked(folder));
		for (const out of folder.states(project))
			for (const n of out.waiting) {
				const taken = refused.has(`${out.id} ${n}`) ? null : await take(out, n);
				if (taken) tell(taken);
			}
	} while (until?.() === false);
}

/** The same of a project of a data file. */
export const takeSavings = (
	options: ExchangeOptions & { readonly until?: (() => boolean) | undefined },
	tell: (taken: TakenSaving) => void,
): Promise<void> => withFolder(options, (store, folder, id) => takeAll(store, folder, id, tell, options.until));
