import type { Clip } from '@eppu/core/edit';
import { type DBSchema, openDB } from 'idb';

interface Shape extends DBSchema {
	clips: { key: 'last'; value: Clip };
}

const open = async () => openDB<Shape>('eppu-clip', 1, { upgrade: (db) => void db.createObjectStore('clips') });

/** Keeps what was copied past a reload, for all projects of this browser; a browser that keeps nothing goes without. */
export const keepClip = async (clip: Clip): Promise<void> => {
	try {
		const db = await open();
		await db.put('clips', clip, 'last');
		db.close();
	} catch (error) {
		console.warn('What was copied is in this tab only:', error);
	}
};

/** What was copied last, in whatever tab or visit. */
export const keptClip = async (): Promise<Clip | undefined> => {
	try {
		const db = await open();
		const clip = await db.get('clips', 'last');
		db.close();
		return clip;
	} catch {
		return undefined;
	}
};
