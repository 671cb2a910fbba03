import type { Engine, Made } from '@eppu/core/engine';
import { readMade } from '@eppu/core/format';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import type { Inflating } from './inflating.ts';
import { packMade, unpackMade } from './madePack.ts';

/** When a computed picture was used, and how large it is: told without reading it. */
interface Use {
	readonly name: string;
	readonly usedAt: number;
	readonly bytes: number;
}
/** Names of what a project had computed when its hand rested last. */
interface Last {
	readonly project: string;
	readonly names: readonly string[];
}
interface MadeBase extends DBSchema {
	packs: { key: string; value: Uint8Array<ArrayBuffer> };
	uses: { key: string; value: Use; indexes: { used: number } };
	last: { key: string; value: Last };
}

const MOST_BYTES = 192 * 1024 * 1024;
/** What was used so lately need not be noted anew. */
const LATELY_MS = 60 * 60 * 1000;
/** The server is asked for what the browser lacks, so long at the most. */
const WAIT_MS = 1500;

let opened: Promise<IDBPDatabase<MadeBase>> | null = null;
const base = (): Promise<IDBPDatabase<MadeBase>> => {
	opened ??= openDB<MadeBase>('eppu-made', 2, {
		upgrade(db) {
			// What an older version kept is computed again.
			for (const name of Array.from(db.objectStoreNames)) db.deleteObjectStore(name);
			db.createObjectStore('packs');
			db.createObjectStore('uses', { keyPath: 'name' }).createIndex('used', 'usedAt');
			db.createObjectStore('last', { keyPath: 'project' });
		},
		terminated: () => {
			opened = null;
		},
	});
	return opened;
};

/** What is kept under a name with the server; null where nothing is. */
async function fromServer(name: string, inflating: Inflating): Promise<Made | null> {
	const answer = await fetch(`/api/made/${name}`, { signal: AbortSignal.timeout(WAIT_MS) });
	if (answer.status !== 200) return null;
	const { far, tiles } = readMade(new Uint8Array(await answer.arrayBuffer()));
	return { far, tiles: await inflating.begin(tiles).help() };
}

/** Names of all that is computed in an engine that nobody changes meanwhile; other work goes on between. */
async function names(engine: Engine, current: () => boolean): Promise<ReadonlyMap<string, string> | null> {
	const naming = engine.nameMade();
	while (current()) {
		const { done, value } = naming.next();
		if (done) return value ?? null;
		await new Promise((next) => setTimeout(next, 0));
	}
	return null;
}

/** Computed pictures of a project's last visit, by their names; each is waited for when it is asked for. */
export type Recalled = ReadonlyMap<string, Promise<Made | null>>;

/**
 * Fetches what a project had computed when its hand rested last, while the project itself still comes: whether it is
 * what is wanted now, its name says later.
 */
export async function recallMade(project: string): Promise<Recalled> {
	const found = new Map<string, Promise<Made | null>>();
	try {
		const db = await base();
		const last = await db.get('last', project);
		await Promise.all(
			(last?.names ?? []).map(async (name) => {
				const pack = await db.get('packs', name);
				if (!pack) return;
				const made = unpackMade(pack);
				// Whoever asks for it hears why it could not be read.
				made.catch(() => {});
				found.set(name, made);
			}),
		);
	} catch (error) {
		console.warn('Computed pictures of the last visit could not be read:', error);
	}
	return found;
}

/** Puts what was kept of an engine's computed pictures in their places; what is missing or unreadable is computed. */
export async function bringMade(engine: Engine, recalled: Recalled, inflating: Inflating): Promise<void> {
	try {
		const db = await base();
		await Promise.all(
			[...((await names(engine, () => true)) ?? [])].map(async ([id, name]) => {
				let made = (await recalled.get(name)) ?? null;
				if (!made) {
					const pack = await db.get('packs', name);
					made = pack ? await unpackMade(pack) : await fromServer(name, inflating);
				}
				if (made) engine.takeMade(id, made);
			}),
		);
	} catch (error) {
		console.warn('Computed pictures of the last visit could not be read:', error);
	}
}

/** Keeps what an engine has computed, when its hand rests; gives up where `current` says that it moves again. */
export async function keepMade(engine: Engine, current: () => boolean): Promise<void> {
	try {
		const db = await base();
		const all = [...((await names(engine, current)) ?? [])];
		for (const [id, name] of all) {
			if (!current()) return;
			const use = await db.get('uses', name);
			if (use) {
				if (Date.now() - use.usedAt > LATELY_MS) await db.put('uses', { ...use, usedAt: Date.now() });
				continue;
			}
			const made = engine.made(id);
			if (!made) continue;
			const pack = await packMade(made);
			const change = db.transaction(['packs', 'uses'], 'readwrite');
			await Promise.all([
				change.objectStore('packs').put(pack, name),
				change.objectStore('uses').put({ name, usedAt: Date.now(), bytes: pack.length }),
				change.done,
			]);
		}
		if (all.length) await db.put('last', { project: engine.project.id, names: all.map(([, name]) => name) });
		await trim(db);
	} catch (error) {
		// A full disk: they are computed again.
		console.warn('Computed pictures could not be kept:', error);
	}
}

/** Lets go of what was used longest ago. */
async function trim(db: IDBPDatabase<MadeBase>): Promise<void> {
	const change = db.transaction(['packs', 'uses'], 'readwrite');
	let all = 0;
	for (let at = await change.objectStore('uses').index('used').openCursor(null, 'prev'); at; at = await at.continue()) {
		all += at.value.bytes;
		if (all <= MOST_BYTES) continue;
		await change.objectStore('packs').delete(at.value.name);
		await at.delete();
	}
	await change.done;
}
