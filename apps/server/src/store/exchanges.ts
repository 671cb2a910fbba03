import { randomBytes } from 'node:crypto';
import { and, asc, eq, max, sql } from 'drizzle-orm';
import type { OpenDatabase } from './database.ts';
import { StoreError } from './error.ts';
import type { ProjectRows } from './rows.ts';
import { exchanges, savings } from './schema.ts';
import { sha256 } from './tiles.ts';

/** What is out at another editor. */
export interface OutThere {
	readonly id: string;
	readonly project: string;
	/** What went out, as the page says it: JSON. */
	readonly what: string;
	/** The file's name in the exchange folder. */
	readonly file: string;
	readonly at: number;
}

/** More savings than these wait for a page at most; the oldest that nobody took go first. */
const MOST_WAITING = 400;

/** What is out at other editors, and their savings until a page took them in. */
export function exchangeStore({ db, transact }: OpenDatabase, rows: ProjectRows) {
	const head = {
		id: exchanges.id,
		project: exchanges.project,
		what: exchanges.what,
		file: exchanges.file,
		at: exchanges.at,
	};
	const need = (id: string) => {
		const row = db.select().from(exchanges).where(eq(exchanges.id, id)).get();
		if (!row) throw new StoreError('not-found', 'That is not out at another editor any more.');
		return row;
	};
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
			const row = { id: randomBytes(12).toString('base64url'), project, what, file, at: now };
			transact(() =>
				db
					.insert(exchanges)
					.values({ ...row, sent: Buffer.from(bytes), agreed: Buffer.from(bytes), seen: sha256(bytes) })
					.run(),
			);
			return row;
		},
		/** A saving was seen and is whole: it waits until it is taken in. False where it is the one seen last. */
		saved(id: string, bytes: Uint8Array, now = Date.now()): boolean {
			const seen = sha256(bytes);
			return transact(() => {
				if (need(id).seen === seen) return false;
				// Numbers are never used twice, also where none waits: whoever says late that one was taken means that one.
				const last =
					db
						.select({ n: max(savings.n) })
						.from(savings)
						.where(eq(savings.exchange, id))
						.get()?.n ?? 0;
				db.insert(savings)
					.values({ exchange: id, n: Math.max(last + 1, now), bytes: Buffer.from(bytes), at: now })
					.run();
				db.update(exchanges).set({ seen }).where(eq(exchanges.id, id)).run();
				db.run(
					sql`delete from ${savings} where ${savings.exchange} = ${id} and ${savings.n} not in (select ${savings.n} from ${savings} where ${savings.exchange} = ${id} order by ${savings.n} desc limit ${MOST_WAITING})`,
				);
				return true;
			});
		},
		/** The numbers of the savings that wait, oldest first. */
		waiting: (id: string): number[] =>
			db
				.select({ n: savings.n })
				.from(savings)
				.where(eq(savings.exchange, id))
				.orderBy(asc(savings.n))
				.all()
				.map(({ n }) => n),
		/** The bytes that went out. */
		sent: (id: string): Buffer => need(id).sent,
		/** The bytes that both sides agreed on last. */
		agreed: (id: string): Buffer => need(id).agreed,
		saving(id: string, n: number): Buffer {
			need(id);
			const row = db
				.select({ bytes: savings.bytes })
				.from(savings)
				.where(and(eq(savings.exchange, id), eq(savings.n, n)))
				.get();
			if (!row) throw new StoreError('not-found', 'That saving was taken in already.');
			return row.bytes;
		},
		/** A saving was taken in and is kept: from now on both sides agree on it. */
		taken(id: string, n: number): void {
			transact(() => {
				const row = db
					.select({ bytes: savings.bytes })
					.from(savings)
					.where(and(eq(savings.exchange, id), eq(savings.n, n)))
					.get();
				if (!row) return;
				db.update(exchanges).set({ agreed: row.bytes }).where(eq(exchanges.id, id)).run();
				db.delete(savings)
					.where(and(eq(savings.exchange, id), sql`${savings.n} <= ${n}`))
					.run();
			});
		},
		/** What was out is called back: its file is nobody's any more. */
		end: (id: string): void => void db.delete(exchanges).where(eq(exchanges.id, id)).run(),
	};
}
