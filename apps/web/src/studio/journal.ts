import type { KeptStep, StoredTile } from '@eppu/core/engine';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import type { Moved } from './keeping.ts';
import type { Said } from './protocol.ts';
import type { HeldPack } from './told.ts';

/** A save that the server has not taken. */
export interface Entry extends HeldPack {
	readonly project: string;
	/** Its place among the entries of the project. */
	readonly order: number;
	readonly strokes: number;
	/** The project's name, to tell of it where there is no server. */
	readonly name: string;
}

/** A step of the history of a project. */
export interface StepEntry {
	readonly project: string;
	/** Its number: later steps have higher ones. */
	readonly id: number;
	readonly step: KeptStep<StoredTile>;
}

/** Which steps lead to a save, oldest first, with the bytes that each takes. */
export interface Trail {
	readonly save: string;
	readonly steps: readonly (readonly [id: number, bytes: number])[];
	/** When it was written. */
	readonly at: number;
}

/** The steps that lead to a save, and the new ones among them. */
export interface Leading {
	readonly trail: Trail;
	readonly added: readonly StepEntry[];
}

interface Shape extends DBSchema {
	entries: { key: [string, number]; value: Entry };
	said: { key: [string, number]; value: Said & { readonly project: string } };
	/** The server's newest revision of a project that this browser opened or made: what is said goes out from it. */
	bases: { key: string; value: number };
	/** Copies that projects went on as, by the project, until a page has told the artist. */
	moves: { key: string; value: Moved };
	steps: { key: [string, number]; value: StepEntry };
	trails: { key: string; value: Trail };
}

let opened: Promise<IDBPDatabase<Shape>> | null = null;

/** The connection; a new one where the last was lost or never came. */
function open(): Promise<IDBPDatabase<Shape>> {
	const lost = (): void => {
		opened = null;
	};
	opened ??= connect(lost);
	opened.catch(lost);
	return opened;
}

/** Rejects, rather than throws, where the browser has no such store. */
const connect = async (lost: () => void): Promise<IDBPDatabase<Shape>> =>
	openDB<Shape>('eppu-held', 3, {
		upgrade(db, from) {
			if (from < 1) {
				db.createObjectStore('entries', { keyPath: ['project', 'order'] });
				db.createObjectStore('said', { keyPath: ['project', 'n'] });
			}
			if (from < 2) {
				db.createObjectStore('bases');
				db.createObjectStore('moves');
			}
			db.createObjectStore('steps', { keyPath: ['project', 'id'] });
			db.createObjectStore('trails');
		},
		blocking: (_now, _next, event) => (event.target as IDBDatabase).close(),
		terminated: lost,
	});

/** Asks the store for something; a connection that fails is opened anew the next time. */
async function ask<T>(work: (db: IDBPDatabase<Shape>) => Promise<T>): Promise<T> {
	const db = await open();
	try {
		return await work(db);
	} catch (error) {
		opened = null;
		db.close();
		throw error;
	}
}

const within = (project: string, upTo = Number.MAX_SAFE_INTEGER): IDBKeyRange =>
	IDBKeyRange.bound([project, 0], [project, upTo]);

/**
 * The browser's journal: changes as they are said, and packs of them that the server has not taken. Every call may
 * fail (a full disk, a quota, a browser that keeps nothing): the caller goes on without it.
 */
export const journal = {
	/** All entries of a project, oldest first. */
	entries: (project: string): Promise<Entry[]> => ask((db) => db.getAll('entries', within(project))),
	said: (project: string): Promise<Said[]> => ask((db) => db.getAll('said', within(project))),
	/** Every project of which something is held. */
	async held(): Promise<Entry[]> {
		return ask((db) => db.getAll('entries'));
	},
	async heldSaid(): Promise<string[]> {
		return ask(async (db) => [...new Set((await db.getAllKeys('said')).map(([project]) => project))]);
	},
	/**
	 * Notes a change as it is said. Asked by the page itself, before it goes on: what was asked for is with the browser
	 * then, and outlives the tab also where that ends at once.
	 */
	say: (project: string, said: Said): Promise<unknown> =>
		ask(async (db) => {
			const tx = db.transaction('said', 'readwrite');
			const put = tx.store.put({ ...said, project });
			tx.commit();
			await Promise.all([put, tx.done]);
		}),
	/** Notes under a copy what was said of the project just before the page knew of it. */
	readdress: (from: string, to: string, said: Said): Promise<unknown> =>
		ask(async (db) => {
			const tx = db.transaction('said', 'readwrite');
			await Promise.all([tx.store.put({ ...said, project: to }), tx.store.delete([from, said.n]), tx.done]);
		}),
	/** Opens the connection ahead, so that the first change need not wait for it. */
	begin: (): void => void open().catch(() => undefined),
	/**
	 * Writes an entry; what was said up to `upTo` is in it and let go of in the same transaction. The steps that lead to
	 * it take the place of all that the project had.
	 */
	write: (entry: Entry, upTo: number, leading?: Leading | null): Promise<unknown> =>
		ask(async (db) => {
			const tx = db.transaction(['entries', 'said', 'steps', 'trails'], 'readwrite', { durability: 'strict' });
			const [steps, trails] = [tx.objectStore('steps'), tx.objectStore('trails')];
			void tx.objectStore('entries').put(entry);
			void tx.objectStore('said').delete(within(entry.project, upTo));
			if (leading) {
				const here = new Set(leading.trail.steps.map(([id]) => id));
				for (const key of await steps.getAllKeys(within(entry.project))) if (!here.has(key[1])) void steps.delete(key);
				for (const each of leading.added) void steps.put(each);
				void trails.put(leading.trail, entry.project);
			}
			await tx.done;
		}),
	trail: (project: string): Promise<Trail | undefined> => ask((db) => db.get('trails', project)),
	steps: (project: string): Promise<StepEntry[]> => ask((db) => db.getAll('steps', within(project))),
	/** Lets go of the steps of all projects but those whose trails were written last. */
	keepTrails: (most: number): Promise<unknown> =>
		ask(async (db) => {
			const tx = db.transaction(['steps', 'trails'], 'readwrite');
			const trails = tx.objectStore('trails');
			const keys = await trails.getAllKeys();
			const all = await Promise.all(keys.map(async (key) => ({ key, at: (await trails.get(key))?.at ?? 0 })));
			for (const { key } of all.sort((a, b) => b.at - a.at).slice(most)) {
				await trails.delete(key);
				await tx.objectStore('steps').delete(within(key));
			}
			await tx.done;
		}),
	forgetTrail: (project: string): Promise<unknown> =>
		ask(async (db) => {
			await db.delete('trails', project);
			await db.delete('steps', within(project));
		}),
	forget: (project: string, upTo: number): Promise<unknown> => ask((db) => db.delete('said', within(project, upTo))),
	/** The server has the entry, as a revision. */
	given: (entry: Entry, revision: number): Promise<unknown> =>
		ask(async (db) => {
			const tx = db.transaction(['entries', 'bases'], 'readwrite', { durability: 'strict' });
			await Promise.all([
				tx.objectStore('entries').delete([entry.project, entry.order]),
				tx.objectStore('bases').put(revision, entry.project),
				tx.done,
			]);
		}),
	base: (project: string): Promise<number | undefined> => ask((db) => db.get('bases', project)),
	noteBase: (project: string, revision: number): Promise<unknown> => ask((db) => db.put('bases', revision, project)),
	/** Puts entries in the place of all of a project, and what was said of it under the copy that it goes on as. */
	move: (moved: Moved, entries: readonly Entry[]): Promise<unknown> =>
		ask(async (db) => {
			const { from, to } = moved;
			const tx = db.transaction(['entries', 'said', 'moves'], 'readwrite', { durability: 'strict' });
			const [list, said] = [tx.objectStore('entries'), tx.objectStore('said')];
			await list.delete(within(from));
			for (const entry of entries) await list.put(entry);
			for (const each of await said.getAll(within(from))) await said.put({ ...each, project: to });
			await said.delete(within(from));
			await tx.objectStore('moves').put(moved, from);
			await tx.done;
		}),
	/** The copy that a project went on as, where no page could tell of it yet. */
	untold: (project: string): Promise<Moved | undefined> => ask((db) => db.get('moves', project)),
	/** The artist knows of the copy. */
	told: (to: string): Promise<unknown> =>
		ask(async (db) => {
			for (const moved of await db.getAll('moves')) if (moved.to === to) await db.delete('moves', moved.from);
		}),
};
