import { fileURLToPath } from 'node:url';
import { openStore, type Store } from './store.ts';

export type { ProjectCard } from './cards.ts';
export { isFull } from './database.ts';
export { StoreError } from './error.ts';
export type { OutThere } from './exchanges.ts';
export { type Library, type LibraryItem, type LibraryKind, libraryKinds } from './library.ts';
export { bringMade, keepMade } from './made.ts';
export type { Save, Saved, StoredProject } from './revisions.ts';
export { openStore, type Store } from './store.ts';
export { bareTiles, keptTiles, packDelta, sha256 } from './tiles.ts';

/** Where the data lies unless EPPU_DATA says otherwise. */
export const dataFile = (): string => process.env.EPPU_DATA ?? 'data/eppu.db';

/** The store of a source checkout; a built server names its own migrations folder. */
export const openSourceStore = (file: string): Store =>
	openStore(file, fileURLToPath(new URL('../../drizzle', import.meta.url)));
