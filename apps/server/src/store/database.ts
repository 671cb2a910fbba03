import { copyFileSync, existsSync, mkdirSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import type BetterSqlite3 from 'better-sqlite3'; // types only: libsql offers the same interface, prebuilt
import { createTableRelationsHelpers, extractTablesRelationalConfig } from 'drizzle-orm';
import type { BetterSQLite3Database } from 'drizzle-orm/better-sqlite3';
import { migrate } from 'drizzle-orm/better-sqlite3/migrator';
import { BetterSQLiteSession } from 'drizzle-orm/better-sqlite3/session';
import { readMigrationFiles } from 'drizzle-orm/migrator';
import { BaseSQLiteDatabase, SQLiteSyncDialect } from 'drizzle-orm/sqlite-core';
import LibSql from 'libsql';
import { StoreError } from './error.ts';
import * as schema from './schema.ts';

export type Database = BetterSQLite3Database<typeof schema>;

export interface OpenDatabase {
	readonly db: Database;
	/** Does all of `work` or nothing of it. Throws StoreError "disk-full" where there is no room for it. */
	transact<T>(work: () => T): T;
	/** Words of the database itself: what its own checks find. */
	pragma(words: string): readonly Record<string, unknown>[];
	/**
	 * Writes the log into the file. The connection itself stays until the process ends: the driver's close() leaves its
	 * files open, and when the connection is collected later it deletes the log of whoever opened the file since.
	 */
	close(): void;
}

/** Keeps connections from being collected; see OpenDatabase.close. */
const connections: BetterSqlite3.Database[] = [];

/** What the driver says of a full disk, a full file system quota or a database at its largest. */
export const isFull = (error: unknown): boolean => {
	const { code, message } = (error ?? {}) as { code?: string; message?: string };
	return (
		code === 'SQLITE_FULL' ||
		code === 'ENOSPC' ||
		code === 'EDQUOT' ||
		code === 'SQLITE_IOERR_WRITE' ||
		/database or disk is full/.test(message ?? '')
	);
};

const diskFull = (): StoreError =>
	new StoreError(
		'disk-full',
		'The disk is full, so nothing more can be kept. Free some space; what you paint is held in the browser until then.',
	);

/** Copies a data file that is to be migrated, log and all, so that there is a way back. */
function copyBefore(file: string, migration: string): void {
	const folder = join(dirname(file), 'before-migrations');
	mkdirSync(folder, { recursive: true });
	const to = join(folder, `${basename(file)}.before-${migration}`);
	for (const end of ['', '-wal']) if (existsSync(file + end)) copyFileSync(file + end, to + end);
}

/** Opens the SQLite file with write-ahead logging and brings it to the newest schema. */
export function openDatabase(file: string, migrationsFolder: string): OpenDatabase {
	const had = existsSync(file);
	const client = new LibSql(file, { timeout: 5000 }) as unknown as BetterSqlite3.Database;
	connections.push(client);
	// FULL: what was acknowledged survives a loss of power, not only of the process.
	for (const pragma of ['journal_mode=WAL', 'synchronous=FULL', 'foreign_keys=OFF']) client.pragma(pragma);
	const relations = extractTablesRelationalConfig(schema, createTableRelationsHelpers);
	const config = { fullSchema: schema, schema: relations.tables, tableNamesMap: relations.tableNamesMap };
	const dialect = new SQLiteSyncDialect();
	const session = new BetterSQLiteSession(client, dialect, config as never, {});
	const db = new BaseSQLiteDatabase('sync', dialect as never, session as never, config as never) as unknown as Database;
	const wanted = readMigrationFiles({ migrationsFolder }).length;
	const known = client.prepare("select 1 from sqlite_master where name = '__drizzle_migrations'").get();
	const done = known ? (client.prepare('select count(*) as n from __drizzle_migrations').get() as { n: number }).n : 0;
	if (had && done > 0 && done < wanted) copyBefore(file, String(done + 1));
	// Foreign keys are off here: a table rebuilt by a migration would cascade to all its children.
	migrate(db, { migrationsFolder });
	if ((client.pragma('foreign_key_check') as unknown[]).length)
		throw new Error(`${file} holds rows that lost what they belong to; it was left as it is.`);
	client.pragma('foreign_keys=ON');
	return {
		db,
		transact(work) {
			try {
				client.exec('begin immediate');
				const result = work();
				client.exec('commit');
				return result;
			} catch (error) {
				// A full disk has rolled back by itself: the failing rollback must not hide why.
				if (client.inTransaction)
					try {
						client.exec('rollback');
					} catch {
						// Rolled back already.
					}
				throw isFull(error) ? diskFull() : error;
			}
		},
		pragma: (words) => client.pragma(words) as Record<string, unknown>[],
		close: () => void client.pragma('wal_checkpoint(TRUNCATE)'),
	};
}
