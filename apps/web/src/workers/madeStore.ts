import type { Engine } from '@eppu/core/engine';
import { packMade, unpackMade } from '@eppu/core/format';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import { pressAll } from './pressing.ts';

/** A computed picture under its name. */
interface KeptMade {
	readonly name: string;
	readonly pack: Uint8Array<ArrayBuffer>;
	readonly usedAt: number;
}
interface MadeBase extends DBSchema {
	made: { key: string; value: KeptMade; indexes: { used: number } };
}

const MOST_BYTES = 192 * 1024 * 1024;
/** The server is asked for what the browser lacks, so long at the most. */
const WAIT_MS = 1500;

let opened: Promise<IDBPDatabase<MadeBase>> | null = null;
const base = (): Promise<IDBPDatabase<MadeBase>> => {
	opened ??= openDB<MadeBase>('eppu-made', 1, {
		upgrade: (db) => void db.createObjectStore('made', { keyPath: 'name' }).createIndex('used', 'usedAt'),
		terminated: () => {
			opened = null;
		},
	});
	return opened;
};

/** What is kept under a name, here or else with the server; null where nothing is. */
async function find(name: string): Promise<Uint8Array<ArrayBuffer> | null> {
	const db = await base();
	const here = await db.get('made', name);
	if (here) {
		await db.put('made', { ...here, usedAt: Date.now() });
		return here.pack;
	}
	const answer = await fetch(`/api/made/${name}`, { signal: AbortSignal.timeout(WAIT_MS) });
	return answer.status === 200 ? new Uint8Array(await answer.arrayBuffer()) : null;
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

/** Puts what was kept of an engine's computed pictures in their places; what is missing or unreadable is computed. */
export async function bringMade(engine: Engine): Promise<void> {
	try {
		const found = await names(engine, () => true);
		await Promise.all(
			[...(found ?? [])].map(async ([id, name]) => {
				const pack = await find(name);
				if (pack) engine.takeMade(id, unpackMade(pack));
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
		for (const [id, name] of (await names(engine, current)) ?? []) {
			if (!current()) return;
			if (await db.getKey('made', name)) continue;
			const made = engine.made(id);
			if (made)
				await db.put('made', {
					name,
					pack: packMade({ ...made, tiles: await pressAll(made.tiles) }),
					usedAt: Date.now(),
				});
		}
		await trim(db);
	} catch (error) {
		// A full disk: they are computed again.
		console.warn('Computed pictures could not be kept:', error);
	}
}

/** Lets go of what was used longest ago. */
async function trim(db: IDBPDatabase<MadeBase>): Promise<void> {
	const change = db.transaction('made', 'readwrite');
	let all = 0;
	for (let at = await change.store.index('used').openCursor(null, 'prev'); at; at = await at.continue()) {
		all += at.value.pack.length;
		if (all > MOST_BYTES) await at.delete();
	}
	await change.done;
}
