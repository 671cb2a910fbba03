import { randomBytes } from 'node:crypto';
import { asc, eq } from 'drizzle-orm';
import type { OpenDatabase } from './database.ts';
import { StoreError } from './error.ts';
import type { ProjectRows } from './rows.ts';
import { SENT, savingRows } from './savings.ts';
import { exchanges } from './schema.ts';
import { sha256 } from './tiles.ts';

/** What is out at another editor. */
export interface OutThere {
	readonly id: string;
	readonly project: string;
	/** What went out, as the page says it: JSON. */
	readonly what: string;
	/** The file's name in the exchange folder. */
	readonly file: string;
	/** The saving that both sides agree on; 0 is what went out. */
	readonly agreed: number;
	readonly at: number;
}

/** What is out at other editors, and their savings until a page took them in. */
export function exchangeStore({ db, transact }: OpenDatabase, rows: ProjectRows) {
	const head = {
		id: exchanges.id,
		project: exchanges.project,
		what: exchanges.what,
		file: exchanges.file,
		agreed: exchanges.agreed,
		at: exchanges.at,
	};
	const need = (id: string): { readonly agreed: number; readonly seen: string } => {
		const row = db
			.select({ agreed: exchanges.agreed, seen: exchanges.seen })
			.from(exchanges)
			.where(eq(exchanges.id, id))
			.get();
		if (!row) throw new StoreError('not-found', 'That is not out at another editor any more.');
		return row;
	};
	const kept = savingRows(db);
	return {
		/** All that is out, or what is out of a project. */
		list: (project?: string): OutThere[] =>
			db
				.select(head)
				.from(exchanges)
				.where(project === undefined ? undefined : eq(exchanges.project, project))
				.orderBy(asc(exchanges.at))
				.all(),
		/** Notes what goes out, and the bytes that both sides agree on now. */
		begin(project: string, what: string, file: string, bytes: Uint8Array, now = Date.now()): OutThere {
			rows.need(project);
			const row = { id: randomBytes(12).toString('base64url'), project, what, file, agreed: SENT, at: now };
			transact(() => {
				db.insert(exchanges)
					.values({ ...row, seen: sha256(bytes) })
					.run();
				kept.put(row.id, SENT, bytes, now);
			});
			return row;
		},
		/** A saving was seen and is whole: it waits until it is taken in. False where it is the one seen last. */
		saved(id: string, bytes: Uint8Array, now = Date.now()): boolean {
			const seen = sha256(bytes);
			return transact(() => {
				const { agreed, seen: before } = need(id);
				if (before === seen) return false;
				// Numbers are never used twice, also where none waits: whoever says late that one was taken means that one.
				kept.put(id, Math.max(kept.last(id) + 1, now), bytes, now);
				db.update(exchanges).set({ seen }).where(eq(exchanges.id, id)).run();
				kept.thin(id, agreed);
				return true;
			});
		},
		/** The numbers of the savings that wait, oldest first. */
		waiting: kept.waiting,
		/** The bytes that went out. */
		sent: (id: string): Buffer => {
			need(id);
			return kept.bytes(id, SENT);
		},
		/** The bytes that both sides agreed on last. */
		agreed: (id: string): Buffer => kept.bytes(id, need(id).agreed),
		saving(id: string, n: number): Buffer {
			// One that both sides agree on does not wait any more.
			if (n <= need(id).agreed) throw new StoreError('not-found', 'That saving was taken in already.');
			return kept.bytes(id, n);
		},
		/** A saving was taken in and is kept: from now on both sides agree on it. */
		taken(id: string, n: number): void {
			transact(() => {
				if (!kept.has(id, n) || n <= need(id).agreed) return;
				db.update(exchanges).set({ agreed: n }).where(eq(exchanges.id, id)).run();
				kept.forget(id, n);
			});
		},
		/** What was out is called back: its file is nobody's any more. */
		end: (id: string): void => void db.delete(exchanges).where(eq(exchanges.id, id)).run(),
	};
}
