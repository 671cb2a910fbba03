import { projectCards } from './cards.ts';
import { openDatabase } from './database.ts';
import { exchangeStore } from './exchanges.ts';
import { openLibrary } from './library.ts';
import { madeStore } from './made.ts';
import { projectRevisions } from './revisions.ts';
import { projectRows } from './rows.ts';
import { upkeep } from './upkeep.ts';

export type Store = ReturnType<typeof openStore>;

/** The store over a SQLite file. Calls are synchronous; each write is one transaction. */
export function openStore(file: string, migrationsFolder: string) {
	const opened = openDatabase(file, migrationsFolder);
	const rows = projectRows(opened.db);
	return {
		close: opened.close,
		library: openLibrary(opened.db),
		made: madeStore(opened),
		exchanges: exchangeStore(opened, rows),
		...projectCards(opened, rows),
		...projectRevisions(opened, rows),
		...upkeep(opened),
	};
}
