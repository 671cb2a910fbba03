/** The keeper: presses changed tiles together, writes them to the journal, and gives them to the server in order. */
import type { KeptTile, Project } from '@eppu/core/document';
import { type PackedTile, readPack, writePack } from '@eppu/core/format';
import type { FromKeeper, Keeping, StudioToKeeper, ToKeeper } from '../studio/protocol.ts';
import { type Entry, journal } from './journal.ts';

const tell = (message: FromKeeper): void => postMessage(message);
const say = (keeping: Keeping): void => tell({ say: 'keeping', keeping });

let project: string | null = null;
/** The revision that the next entry makes. */
let next = 0;
const waiting: Entry[] = [];
let giving = false;
let retry: ReturnType<typeof setTimeout> | undefined;
let patience = 500;
let conflict = false;
/** Messages are worked off one after the other, since pressing takes time. */
let order: Promise<unknown> = Promise.resolve();

const hex = (bytes: ArrayBuffer): string =>
	Array.from(new Uint8Array(bytes), (b) => b.toString(16).padStart(2, '0')).join('');

async function pressed(tile: KeptTile): Promise<{ readonly tile: PackedTile; readonly blob: Uint8Array | null }> {
	const at = { surface: tile.surface, index: tile.index };
	if (!tile.texels) return { tile: { ...at, value: tile.value ?? 0, hash: null, length: 0 }, blob: null };
	const stream = new Blob([tile.texels]).stream().pipeThrough(new CompressionStream('deflate-raw'));
	const [hash, bytes] = await Promise.all([
		crypto.subtle.digest('SHA-256', tile.texels),
		new Response(stream).arrayBuffer(),
	]);
	const blob = new Uint8Array(bytes);
	return { tile: { ...at, value: null, hash: hex(hash), length: blob.length }, blob };
}

/** Gives one entry to the server. Throws where the server is away or full; 'conflict' where it went on without us. */
async function give(entry: Entry): Promise<'given' | 'conflict'> {
	const response = await fetch(`/api/projects/${entry.project}/revisions/${entry.revision}`, {
		method: 'PUT',
		headers: { 'Content-Type': 'application/octet-stream' },
		body: entry.pack,
	});
	if (response.ok) return 'given';
	if (response.status === 409 || response.status === 404) return 'conflict';
	const answer = (await response.json().catch(() => null)) as { code?: string } | null;
	throw new Error(answer?.code === 'disk-full' ? 'the disk is full' : 'server away');
}

const heldStrokes = (): number => waiting.reduce((sum, entry) => sum + entry.strokes, 0);

async function giveAll(): Promise<void> {
	if (giving || conflict) return;
	giving = true;
	clearTimeout(retry);
	try {
		while (waiting[0]) {
			const entry = waiting[0];
			say(patience > 500 ? { state: 'held', strokes: heldStrokes(), why: 'trying again' } : { state: 'keeping' });
			if ((await give(entry)) === 'conflict') {
				conflict = true;
				say({ state: 'conflict' });
				return;
			}
			waiting.shift();
			patience = 500;
			await journal.drop(entry.project, entry.revision);
		}
		say({ state: 'kept', at: Date.now() });
	} catch (error) {
		const why = error instanceof Error && error.message === 'the disk is full' ? error.message : 'server away';
		say({ state: 'held', strokes: heldStrokes(), why });
		retry = setTimeout(giveAll, patience);
		patience = Math.min(8000, patience * 2);
	} finally {
		giving = false;
	}
}

/**
 * The project went on elsewhere while these entries waited: they become a copy of it with what was painted here on
 * top, so that neither is lost.
 */
async function rescue(id: string, entries: readonly Entry[]): Promise<void> {
	const copy = crypto.randomUUID();
	const last = readPack<{ project: Project }>((entries.at(-1) as Entry).pack).head.project;
	const name = `${last.name.slice(0, 100)} (painted here)`;
	const made = await fetch(`/api/projects/${id}/copy`, {
		method: 'POST',
		headers: { 'Content-Type': 'application/json' },
		body: JSON.stringify({ id: copy, name }),
	});
	if (!made.ok) throw new Error('no copy could be made');
	let revision = 2;
	for (const entry of entries) {
		const { head, tiles, blobs } = readPack<{ project: Project }>(entry.pack);
		const pack = writePack({ head: { project: { ...head.project, id: copy, name } }, tiles, blobs });
		if ((await give({ ...entry, project: copy, revision: revision++, pack })) === 'conflict')
			throw new Error('the copy was refused');
	}
	for (const entry of entries) await journal.drop(entry.project, entry.revision);
	await journal.writeLive(id, null);
}

/** Before a project is opened: what the journal holds of it goes to the server, and the live stroke comes back. */
async function settle(id: string): Promise<void> {
	project = null;
	waiting.length = 0;
	conflict = false;
	let given = 0;
	let rescued = false;
	try {
		const entries = await journal.entries(id);
		for (const [i, entry] of entries.entries()) {
			if ((await give(entry)) === 'conflict') {
				await rescue(id, entries.slice(i));
				rescued = true;
				break;
			}
			given++;
			await journal.drop(entry.project, entry.revision);
		}
	} catch {
		// The server is away: opening will say so, and the journal keeps what it has.
	}
	tell({ say: 'settled', project: id, live: rescued ? null : await journal.live(id), given, rescued });
}

async function fromStudio(message: StudioToKeeper): Promise<void> {
	if (message.say === 'based') {
		project = message.project;
		next = message.revision + 1;
		say({ state: 'kept', at: Date.now() });
	} else if (message.say === 'live') {
		if (project) await journal.writeLive(project, message.stroke);
	} else if (message.say === 'cover') {
		await fetch(`/api/projects/${message.project}/cover`, {
			method: 'PUT',
			headers: { 'Content-Type': 'image/png' },
			body: message.png,
		}).catch(() => undefined);
	} else if (project) {
		const all = await Promise.all(message.tiles.map(pressed));
		const pack = writePack({
			head: { project: message.project },
			tiles: all.map((each) => each.tile),
			blobs: all.flatMap((each) => each.blob ?? []),
		});
		const entry: Entry = { project, revision: next++, pack, strokes: message.strokes };
		await journal.write(entry);
		waiting.push(entry);
		void giveAll();
	}
}

const inOrder = (work: () => Promise<void>): void => {
	order = order.then(work).catch((error) => {
		console.error(error);
		say({ state: 'held', strokes: heldStrokes(), why: 'this browser’s storage refused it' });
	});
};

addEventListener('message', (event: MessageEvent<ToKeeper>) => {
	const message = event.data;
	if (message.say === 'studio')
		message.port.onmessage = (from: MessageEvent<StudioToKeeper>) => inOrder(() => fromStudio(from.data));
	else if (message.say === 'settle') inOrder(() => settle(message.project));
	else {
		patience = 500;
		void giveAll();
	}
});
addEventListener('online', () => void giveAll());
