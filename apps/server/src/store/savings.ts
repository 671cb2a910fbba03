import { and, asc, eq, gt, lt, max, sql } from 'drizzle-orm';
import type { OpenDatabase } from './database.ts';
import { StoreError } from './error.ts';
import { exchanges, savings } from './schema.ts';

/** The number of what went out: it stands among the savings. */
export const SENT = 0;
/** More savings than these wait for a page at most; the oldest that nobody took go first. */
const MOST_WAITING = 400;

/** The bytes of what is out at other editors, by what is out and numbers that grow. */
export function savingRows(db: OpenDatabase['db']) {
	const row = (id: string, n: number) => and(eq(savings.exchange, id), eq(savings.n, n));
	return {
		put(id: string, n: number, bytes: Uint8Array, at: number): void {
			// The same memory: a saving is megabytes.
			const buffer = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
			db.insert(savings).values({ exchange: id, n, bytes: buffer, at }).run();
		},
		bytes(id: string, n: number): Buffer {
			const found = db.select({ bytes: savings.bytes }).from(savings).where(row(id, n)).get();
			if (!found) throw new StoreError('not-found', 'That saving was taken in already.');
			return found.bytes;
		},
		has: (id: string, n: number): boolean =>
			db.select({ n: savings.n }).from(savings).where(row(id, n)).get() !== undefined,
		last: (id: string): number =>
			db
				.select({ n: max(savings.n) })
				.from(savings)
				.where(eq(savings.exchange, id))
				.get()?.n ?? SENT,
		/** Those that are newer than what both sides agree on, oldest first. */
		waiting: (id: string): number[] =>
			db
				.select({ n: savings.n })
				.from(savings)
				.innerJoin(exchanges, eq(exchanges.id, savings.exchange))
				.where(and(eq(savings.exchange, id), gt(savings.n, exchanges.agreed)))
				.orderBy(asc(savings.n))
				.all()
				.map(({ n }) => n),
		/** Of those after `agreed` only the newest stay. */
		thin(id: string, agreed: number): void {
			db.run(
				sql`delete from ${savings} where ${savings.exchange} = ${id} and ${savings.n} > ${agreed} and ${savings.n} not in (select ${savings.n} from ${savings} where ${savings.exchange} = ${id} order by ${savings.n} desc limit ${MOST_WAITING})`,
			);
		},
		/** What was agreed on before, and what is older than what is agreed on now, is let go of. */
		forget(id: string, agreed: number): void {
			db.delete(savings)
				.where(and(eq(savings.exchange, id), gt(savings.n, SENT), lt(savings.n, agreed)))
				.run();
		},
	};
}
