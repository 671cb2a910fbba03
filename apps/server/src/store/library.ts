import { lightProblem, paletteProblem, presetProblem, recipeProblem } from '@eppu/core/document';
import { PackedPictureError, unpackPicture } from '@eppu/core/format';
import { orderProblem } from '@eppu/core/handoff';
import { asc, eq } from 'drizzle-orm';
import type { Database } from './database.ts';
import { StoreError } from './error.ts';
import { library } from './schema.ts';

export const libraryKinds = [
	'tip',
	'stencil',
	'reference',
	'pinned',
	'preset',
	'palette',
	'recipe',
	'light',
	'order',
] as const;
export type LibraryKind = (typeof libraryKinds)[number];

export interface LibraryItem {
	readonly id: string;
	readonly kind: LibraryKind;
	readonly name: string;
}

const MOST_ITEMS = 2000;
const isPicture = (kind: LibraryKind): boolean =>
	kind === 'tip' || kind === 'stencil' || kind === 'reference' || kind === 'pinned';

function checkBody(kind: LibraryKind, body: Uint8Array): void {
	if (isPicture(kind)) {
		try {
			unpackPicture(body);
		} catch (error) {
			if (error instanceof PackedPictureError) throw new StoreError('bad-input', error.message);
			throw error;
		}
		return;
	}
	let value: unknown;
	try {
		value = JSON.parse(new TextDecoder().decode(body));
	} catch {
		throw new StoreError('bad-input', 'What was sent for the library is not JSON.');
	}
	const problem = {
		preset: presetProblem,
		palette: paletteProblem,
		recipe: recipeProblem,
		light: lightProblem,
		order: orderProblem,
	}[kind as 'preset' | 'palette' | 'recipe' | 'light' | 'order'](value);
	if (problem) throw new StoreError('bad-input', problem);
}

/** What is kept for all projects. */
export function openLibrary(db: Database) {
	const need = (id: string) => {
		const row = db.select().from(library).where(eq(library.id, id)).get();
		if (!row) throw new StoreError('not-found', 'The library has no such item any more.');
		return row;
	};
	return {
		list: (): LibraryItem[] =>
			db
				.select({ id: library.id, kind: library.kind, name: library.name })
				.from(library)
				.orderBy(asc(library.createdAt))
				.all() as LibraryItem[],
		/** Throws where it is not what it should be any more. */
		body(id: string): Buffer {
			const { kind, body } = need(id);
			if (!isPicture(kind as LibraryKind)) checkBody(kind as LibraryKind, body);
			return body;
		},
		/** Puts an item under its id, in place of one that was there. */
		put(item: LibraryItem, body: Uint8Array): void {
			checkBody(item.kind, body);
			const known = db.select({ id: library.id }).from(library).where(eq(library.id, item.id)).get();
			if (!known && this.list().length >= MOST_ITEMS)
				throw new StoreError('bad-input', `The library is full (${MOST_ITEMS} items). Delete some first.`);
			const what = { kind: item.kind, name: item.name, body: Buffer.from(body) };
			db.insert(library)
				.values({ id: item.id, ...what, createdAt: Date.now() })
				.onConflictDoUpdate({ target: library.id, set: what })
				.run();
		},
		remove(id: string): void {
			need(id);
			db.delete(library).where(eq(library.id, id)).run();
		},
	};
}

export type Library = ReturnType<typeof openLibrary>;
