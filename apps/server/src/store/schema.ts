import { blob, index, integer, primaryKey, sqliteTable, text } from 'drizzle-orm/sqlite-core';

/** A project: its document as JSON, at a revision that counts what was kept. */
export const projects = sqliteTable('project', {
	id: text('id').primaryKey(),
	name: text('name').notNull(),
	revision: integer('revision').notNull(),
	document: text('document').notNull(),
	desk: text('desk'),
	cover: blob('cover', { mode: 'buffer' }),
	createdAt: integer('created_at').notNull(),
	updatedAt: integer('updated_at').notNull(),
	deletedAt: integer('deleted_at'),
	/** What a copy was asked for with, so that asking twice makes one. */
	origin: text('origin'),
});

/** Deflated texels, files and documents, by the SHA-256 of what they hold. */
export const blobs = sqliteTable('blob', {
	hash: text('hash').primaryKey(),
	bytes: blob('bytes', { mode: 'buffer' }).notNull(),
});

/** Tiles that are not empty: one value, or texels by hash. At WHOLE stands the value of all that have no row. */
export const tiles = sqliteTable(
	'tile',
	{
		project: text('project')
			.notNull()
			.references(() => projects.id, { onDelete: 'cascade' }),
		surface: text('surface').notNull(),
		index: integer('idx').notNull(),
		value: integer('value'),
		hash: text('hash').references(() => blobs.hash),
	},
	(table) => [primaryKey({ columns: [table.project, table.surface, table.index] }), index('tile_hash').on(table.hash)],
);

/** The place of a value that stands for all tiles of a surface that have no row of their own. */
export const WHOLE = -1;

/** What a tile was up to a revision: neither value nor hash where it had no row. */
export const pastTiles = sqliteTable(
	'past_tile',
	{
		project: text('project')
			.notNull()
			.references(() => projects.id, { onDelete: 'cascade' }),
		surface: text('surface').notNull(),
		index: integer('idx').notNull(),
		/** The last revision at which it was so. */
		until: integer('until').notNull(),
		value: integer('value'),
		hash: text('hash').references(() => blobs.hash),
		at: integer('at').notNull(),
	},
	(table) => [
		primaryKey({ columns: [table.project, table.surface, table.index, table.until] }),
		index('past_tile_hash').on(table.hash),
		index('past_tile_at').on(table.at),
	],
);

/** What was kept at each revision: which save made it, of what content, and the document by the hash of its text. */
export const revisions = sqliteTable(
	'revision',
	{
		project: text('project')
			.notNull()
			.references(() => projects.id, { onDelete: 'cascade' }),
		revision: integer('revision').notNull(),
		save: text('save').notNull(),
		content: text('content').notNull(),
		document: text('document')
			.notNull()
			.references(() => blobs.hash),
		at: integer('at').notNull(),
	},
	(table) => [
		primaryKey({ columns: [table.project, table.revision] }),
		index('revision_save').on(table.project, table.save),
		index('revision_document').on(table.document),
	],
);

/** Files that a project was made from: models and guide pictures. */
export const assets = sqliteTable(
	'asset',
	{
		project: text('project')
			.notNull()
			.references(() => projects.id, { onDelete: 'cascade' }),
		hash: text('hash')
			.notNull()
			.references(() => blobs.hash),
		name: text('name').notNull(),
	},
	(table) => [primaryKey({ columns: [table.project, table.hash] })],
);

/** What artists keep for all their projects: tip and stencil pictures, references, tips with their dials, palettes. */
export const library = sqliteTable('library', {
	id: text('id').primaryKey(),
	kind: text('kind').notNull(),
	name: text('name').notNull(),
	body: blob('body', { mode: 'buffer' }).notNull(),
	createdAt: integer('created_at').notNull(),
});

/** Pictures that were computed, by names that say all that they depend on: whoever lets go of them computes them again. */
export const made = sqliteTable(
	'made',
	{
		name: text('name').primaryKey(),
		bytes: blob('bytes', { mode: 'buffer' }).notNull(),
		length: integer('length').notNull(),
		usedAt: integer('used_at').notNull(),
	},
	(table) => [index('made_used').on(table.usedAt)],
);

/** What is out at another editor: a file in the exchange folder. It is looked at all the time: bytes stand elsewhere. */
export const exchanges = sqliteTable('exchange', {
	id: text('id').primaryKey(),
	project: text('project')
		.notNull()
		.references(() => projects.id, { onDelete: 'cascade' }),
	/** What went out, as the page says it. */
	what: text('what').notNull(),
	/** The file's name in the folder. */
	file: text('file').notNull(),
	/** The saving that both sides agree on; 0 is what went out. */
	agreed: integer('agreed').notNull().default(0),
	/** SHA-256 of what was last seen in the file and is whole. */
	seen: text('seen').notNull(),
	at: integer('at').notNull(),
});

/** What went out, what both sides agree on, and after it the savings that were not taken in yet, oldest first. */
export const savings = sqliteTable(
	'saving',
	{
		exchange: text('exchange')
			.notNull()
			.references(() => exchanges.id, { onDelete: 'cascade' }),
		n: integer('n').notNull(),
		bytes: blob('bytes', { mode: 'buffer' }).notNull(),
		at: integer('at').notNull(),
	},
	(table) => [primaryKey({ columns: [table.exchange, table.n] })],
);
