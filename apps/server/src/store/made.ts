import type { Engine } from '@eppu/core/engine';
import { packMade, unpackMade } from '@eppu/core/format';
import { asc, eq, sql } from 'drizzle-orm';
import type { OpenDatabase } from './database.ts';
import { made } from './schema.ts';
import { packedTile } from './tiles.ts';

/** Bytes that are kept in all; what was used longest ago goes first. */
const MOST_BYTES = 256 * 1024 * 1024;
const DAY_MS = 24 * 3600 * 1000;

export type MadeStore = ReturnType<typeof madeStore>;

/** Computed pictures, kept for exports and for whoever opens the project next. */
export function madeStore({ db, transact }: OpenDatabase) {
	return {
		/** What is kept under a name, or null. */
		get(name: string, now = Date.now()): Buffer | null {
			const row = db.select({ bytes: made.bytes, usedAt: made.usedAt }).from(made).where(eq(made.name, name)).get();
			if (row && row.usedAt < now - DAY_MS) db.update(made).set({ usedAt: now }).where(eq(made.name, name)).run();
			return row?.bytes ?? null;
		},
		has: (name: string): boolean =>
			db.select({ name: made.name }).from(made).where(eq(made.name, name)).get() !== undefined,
		put(name: string, bytes: Uint8Array, now = Date.now(), most = MOST_BYTES): void {
			transact(() => {
				db.insert(made)
					.values({ name, bytes: Buffer.from(bytes), length: bytes.length, usedAt: now })
					.onConflictDoNothing()
					.run();
				let all =
					db
						.select({ sum: sql<number>`coalesce(sum(${made.length}), 0)` })
						.from(made)
						.get()?.sum ?? 0;
				for (const row of all > most
					? db.select({ name: made.name, length: made.length }).from(made).orderBy(asc(made.usedAt)).all()
					: []) {
					if (all <= most) break;
					all -= row.length;
					db.delete(made).where(eq(made.name, row.name)).run();
				}
			});
		},
	};
}

/** Names of all that is computed in an engine; nothing changes meanwhile. */
function namesIn(engine: Engine): ReadonlyMap<string, string> {
	const naming = engine.nameMade();
	while (true) {
		const { done, value } = naming.next();
		if (done) return value ?? new Map();
	}
}

/** Puts what was kept of an engine's computed pictures in their places. */
export function bringMade(store: MadeStore, engine: Engine): void {
	for (const [id, name] of namesIn(engine)) {
		const bytes = store.get(name);
		if (bytes) engine.takeMade(id, unpackMade(bytes));
	}
}

/** Keeps what an engine has computed. */
export function keepMade(store: MadeStore, engine: Engine): void {
	for (const [id, name] of namesIn(engine)) {
		const found = store.has(name) ? null : engine.made(id);
		if (found) store.put(name, packMade({ ...found, tiles: found.tiles.map(packedTile) }));
	}
}
