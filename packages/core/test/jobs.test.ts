/** The pool: what jobs make is the same by whoever does them, in any order, whoever dies. */
import { readFile } from 'node:fs/promises';
import { createHeap, createKernels, guestHeap, type Kernels, MemoryFullError } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { openPool } from '@eppu/server/jobs';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { CompositeWork, FromMember, Member, Pool, ToMember } from '../src/jobs/index.ts';
import { type AnyWork, createPool, createWorker } from '../src/jobs/index.ts';
import { everything, openOn, paint } from './oracle/derived.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

/** A project with layers of every kind, and the tiles of its sheet as its engine shows them. */
function painted(): {
	readonly work: (tiles: readonly number[]) => CompositeWork;
	readonly whole: Buffer;
	close(): void;
} {
	const engine = openOn(kernels, everything());
	paint(engine, 'a', 'color', 3);
	paint(engine, 'b', 'color', 4);
	engine.refresh(() => false);
	const out = kernels.heap.alloc(16384);
	const tiles = Array.from({ length: 9 }, (_, tile) => {
		engine.compositeTile('s', tile, out);
		return Buffer.from(kernels.heap.u8.slice(out, out + 16384));
	});
	const work = (list: readonly number[]): CompositeWork => engine.compositeWork('s', list) as CompositeWork;
	return { work, whole: Buffer.concat(tiles), close: () => engine.close() };
}

describe('threads on the shared memory', () => {
	test.each([1, 2, 4])(
		'%s of them make the same bytes as the engine',
		async (count) => {
			const { work, whole, close } = painted();
			const pool = await openPool(kernels, count);
			const lists = [[0, 1, 2], [3], [4, 5], [6, 7, 8]];
			const made = await Promise.all(lists.map((list, i) => pool.do(work(list), i % 2)));
			expect(made.every(Boolean)).toBe(true);
			expect(Buffer.compare(Buffer.concat(made as Uint8Array[]), whole)).toBe(0);
			pool.end();
			close();
		},
		60_000,
	);
});

test('a guest’s heap keeps to its own part, and says when it is full', async () => {
	const owner = createHeap();
	const start = owner.alloc(1 << 16);
	const guest = guestHeap(owner.memory, start, 1 << 16);
	fc.assert(
		fc.property(fc.array(fc.integer({ min: 1, max: 3000 }), { minLength: 1, maxLength: 12 }), (sizes) => {
			const taken = sizes.map((size) => [guest.alloc(size), size] as const);
			for (const [at, size] of taken) {
				expect(at >= start && at + size <= start + (1 << 16)).toBe(true);
				for (const [other, length] of taken)
					expect(other === at || other + length <= at || other >= at + size).toBe(true);
			}
			for (const [at, size] of taken) guest.free(at, size);
			expect(guest.used).toBe(0);
		}),
		{ numRuns: 8 },
	);
	expect(() => guest.alloc(1 << 17)).toThrow(MemoryFullError);
	// Where the owner makes it grow, the guest sees it.
	owner.alloc(owner.memory.buffer.byteLength);
	expect(guest.u8.byteLength).toBe(owner.memory.buffer.byteLength);
	expect((await createKernels(await WebAssembly.compile(await wasm()), guest)).heap).toBe(guest);
});
const wasm = async (): Promise<Uint8Array<ArrayBuffer>> =>
	new Uint8Array(await readFile(new URL('../../kernels/build/kernels.wasm', import.meta.url)));

describe('whoever does jobs may be slow, fail or die', () => {
	/** Members that do as they are told: each entry is what becomes of one message. */
	type Fate = 'done' | 'fails' | 'dies';
	function poolOf(fates: readonly Fate[], count: number, ranks: number[]): { pool: Pool; opened: () => number } {
		let [n, opened] = [0, 0];
		const pool = createPool(count, (): Member => {
			opened++;
			let answer: (message: FromMember | null) => void = () => {};
			let dead = false;
			return {
				post(message: ToMember) {
					const fate = fates[n++] ?? 'done';
					ranks.push((message.work as unknown as { rank: number }).rank);
					// Answers come in any order.
					setTimeout(
						() => {
							if (dead) return;
							if (fate === 'dies') answer(null);
							else {
								const made = fate === 'done' ? Uint8Array.of((message.work as unknown as { rank: number }).rank) : null;
								answer({ n: message.n, made });
							}
						},
						(n * 7) % 5,
					);
				},
				hear(to) {
					answer = to;
				},
				end() {
					dead = true;
				},
			};
		});
		return { pool, opened: () => opened };
	}
	const work = (rank: number): AnyWork => ({ job: 'composite', rank, layers: [], tiles: [] }) as AnyWork;

	test('every job comes back once: made, or told that it could not be', async () => {
		await fc.assert(
			fc.asyncProperty(
				fc.array(fc.constantFrom<Fate>('done', 'fails', 'dies'), { maxLength: 30 }),
				fc.integer({ min: 1, max: 4 }),
				fc.integer({ min: 1, max: 12 }),
				async (fates, count, jobs) => {
					const { pool, opened } = poolOf(fates, count, []);
					const made = await Promise.all(Array.from({ length: jobs }, (_, i) => pool.do(work(i))));
					made.forEach((each, i) => expect(each === null || each[0] === i).toBe(true));
					const deaths = fates.filter((fate) => fate === 'dies').length;
					expect(opened() - count).toBeLessThanOrEqual(deaths);
					if (!fates.length) expect(made.every(Boolean)).toBe(true);
					expect(pool.idle).toBe(count);
					pool.end();
				},
			),
			{ numRuns: 60 },
		);
	});
	test('a job whose maker died once is made again; after the second time it is told', async () => {
		const once = poolOf(['dies', 'done'], 1, []);
		expect(await once.pool.do(work(5))).toEqual(Uint8Array.of(5));
		const twice = poolOf(['dies', 'dies', 'done'], 1, []);
		expect(await twice.pool.do(work(5))).toBeNull();
		expect(await twice.pool.do(work(6))).toEqual(Uint8Array.of(6));
	});
	test('what matters most is made first, and what is dropped is not made', async () => {
		const order: number[] = [];
		const { pool } = poolOf([], 1, order);
		const all = [3, 1, 2, 0].map((rank) => pool.do(work(rank), rank));
		await Promise.all(all);
		// The first began before the others were known.
		expect(order).toEqual([3, 0, 1, 2]);
		const held = pool.do(work(7));
		const dropped = pool.do(work(8));
		pool.drop();
		expect([await held, await dropped]).toEqual([Uint8Array.of(7), null]);
		expect(order).not.toContain(8);
	});
});

test('who asks can do a job as well: the same bytes', () => {
	const { work, whole, close } = painted();
	const { made } = createWorker({ kernels })(work([0, 1, 2, 3, 4, 5, 6, 7, 8]));
	expect(Buffer.compare(Buffer.from(made), whole)).toBe(0);
	close();
});
