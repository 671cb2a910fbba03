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
});

/** Deflated texels and files, by the SHA-256 of what they hold. */
export const blobs = sqliteTable('blob', {
	hash: text('hash').primaryKey(),
	bytes: blob('bytes', { mode: 'buffer' }).notNull(),
});

/** Tiles that are not empty: one value, or texels by hash. */
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
