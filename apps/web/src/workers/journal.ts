import { type DBSchema, type IDBPDatabase, openDB } from 'idb';
import type { LiveStroke } from '../studio/protocol.ts';

/** A save that the server has not acknowledged. */
export interface Entry {
	readonly project: string;
	/** The revision that it makes. */
	readonly revision: number;
	readonly pack: Uint8Array<ArrayBuffer>;
	readonly strokes: number;
}

interface Shape extends DBSchema {
	entries: { key: [string, number]; value: Entry };
	live: { key: string; value: { project: string; stroke: LiveStroke } };
}

let opened: Promise<IDBPDatabase<Shape>> | null = null;
const open = (): Promise<IDBPDatabase<Shape>> => {
	opened ??= openDB<Shape>('eppu-journal', 1, {
		upgrade(db) {
			db.createObjectStore('entries', { keyPath: ['project', 'revision'] });
			db.createObjectStore('live', { keyPath: 'project' });
		},
	});
	return opened;
};

const within = (project: string): IDBKeyRange => IDBKeyRange.bound([project, 0], [project, Number.MAX_SAFE_INTEGER]);

/** The browser's journal: what the server has not acknowledged, and the stroke that is being made. */
export const journal = {
	/** All entries of a project, oldest first. */
	entries: async (project: string): Promise<Entry[]> => (await open()).getAll('entries', within(project)),
	/** Writes an entry; with it the live stroke, which it contains, is let go in the same transaction. */
	async write(entry: Entry): Promise<void> {
		const tx = (await open()).transaction(['entries', 'live'], 'readwrite', { durability: 'strict' });
		await Promise.all([
			tx.objectStore('entries').put(entry),
			entry.strokes ? tx.objectStore('live').delete(entry.project) : undefined,
			tx.done,
		]);
	},
	drop: async (project: string, revision: number): Promise<void> =>
		(await open()).delete('entries', [project, revision]),
	live: async (project: string): Promise<LiveStroke | null> =>
		(await (await open()).get('live', project))?.stroke ?? null,
	async writeLive(project: string, stroke: LiveStroke | null): Promise<void> {
		const db = await open();
		if (stroke) await db.put('live', { project, stroke });
		else await db.delete('live', project);
	},
};
