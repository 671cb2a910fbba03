import type BetterSqlite3 from 'better-sqlite3'; // types only: libsql offers the same interface, prebuilt
import { createTableRelationsHelpers, extractTablesRelationalConfig } from 'drizzle-orm';
import type { BetterSQLite3Database } from 'drizzle-orm/better-sqlite3';
import { migrate } from 'drizzle-orm/better-sqlite3/migrator';
import { BetterSQLiteSession } from 'drizzle-orm/better-sqlite3/session';
import { BaseSQLiteDatabase, SQLiteSyncDialect } from 'drizzle-orm/sqlite-core';
import LibSql from 'libsql';
import * as schema from './schema.ts';

export type Database = BetterSQLite3Database<typeof schema>;

export interface OpenDatabase {
	readonly db: Database;
	close(): void;
}

/** Opens the SQLite file with write-ahead logging and brings it to the newest schema. */
export function openDatabase(file: string, migrationsFolder: string): OpenDatabase {
	const client = new LibSql(file, { timeout: 5000 }) as unknown as BetterSqlite3.Database;
	// FULL: what was acknowledged survives a loss of power, not only of the process.
	for (const pragma of ['journal_mode=WAL', 'synchronous=FULL', 'foreign_keys=OFF']) client.pragma(pragma);
	const relations = extractTablesRelationalConfig(schema, createTableRelationsHelpers);
	const config = { fullSchema: schema, schema: relations.tables, tableNamesMap: relations.tableNamesMap };
	const dialect = new SQLiteSyncDialect();
	const session = new BetterSQLiteSession(client, dialect, config as never, {});
	const db = new BaseSQLiteDatabase('sync', dialect as never, session as never, config as never) as unknown as Database;
	// Foreign keys are off here: a table rebuilt by a migration would cascade to all its children.
	migrate(db, { migrationsFolder });
	if ((client.pragma('foreign_key_check') as unknown[]).length)
		throw new Error(`${file} holds rows that lost what they belong to; it was left as it is.`);
	client.pragma('foreign_keys=ON');
	return { db, close: () => void client.close() };
}
