/** The pool: what jobs make is the same by whoever does them, in any order, whoever dies. */
import { readFile } from 'node:fs/promises';
import { createHeap, createKernels, guestHeap, type Kernels, MemoryFullError } from '@eppu/kernels';
import { loadKernels, loadPngReader, loadPngWriter, loadWebpWriter } from '@eppu/kernels/node';
import { openPool } from '@eppu/server/jobs';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { crafts } from '../src/crafts/index.ts';
import { type Layer, lightLayer, paintLayer, washLayer } from '../src/document/index.ts';
import { type Engine, openEngine, pictureWith, settleWith } from '../src/engine/index.ts';
import type { CompositeWork, DeriveWork, FromMember, Member, Pool, ToMember } from '../src/jobs/index.ts';
import { type Codecs, createPool, createWorker, type Work } from '../src/jobs/index.ts';
import { type LightPreset, lightPresets, toneBake } from '../src/light/index.ts';
import { everything, masked, mesh, meshes, openOn, paint, picture, step } from './oracle/derived.ts';
import { projectOf } from './oracle/meshes.ts';
import { seeded } from './oracle/surfaces.ts';

const codecs: Codecs = { png: loadPngWriter, readPng: loadPngReader, webp: loadWebpWriter };
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
		{ numRuns: 100 },
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
					if ('word' in message) return;
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
	const work = (rank: number): Work<Uint8Array> => ({ job: 'composite', rank }) as Work<Uint8Array>;

	test('every job comes back once: made, or told that it could not be', async () => {
		await fc.assert(
			fc.asyncProperty(
				fc.array(fc.constantFrom<Fate>('done', 'fails', 'dies'), { maxLength: 30 }),
				fc.integer({ min: 1, max: 4 }),
				fc.integer({ min: 1, max: 12 }),
				async (fates, count, jobs) => {
					const { pool, opened } = poolOf(fates, count, []);
					const made = await Promise.all(Array.from({ length: jobs }, (_, i) => pool.do(work(i))));
					made.forEach((each, i) => expect(each === null || (each as Uint8Array)[0] === i).toBe(true));
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

test('who asks can do a job as well: the same bytes', async () => {
	const { work, whole, close } = painted();
	const { made } = await createWorker(kernels, crafts, codecs).work(work([0, 1, 2, 3, 4, 5, 6, 7, 8]));
	expect(Buffer.compare(Buffer.from(made), whole)).toBe(0);
	close();
});

describe('what follows from the document, computed by others', () => {
	/** Settles an engine by members that do as they are told, on kernels of their own on the same memory. */
	async function settleMixed(engine: Engine, pool: Pool, between: () => void = () => {}): Promise<void> {
		pool.tell({ say: 'meshes', meshes });
		for (let n = 0; engine.due && n < 2000; n++) {
			while (pool.idle > 0) {
				const work = engine.lend(2);
				if (!work) break;
				pool.tell({ say: 'project', project: engine.project });
				void pool.do(work, 1).then((made) => engine.returned(work, made));
			}
			if (n === 3) between();
			await new Promise((next) => setTimeout(next, 0));
			// Some of it is computed here at the same time.
			let few = n % 3;
			engine.refresh(() => few-- <= 0);
		}
		expect(engine.due).toBe(false);
	}
	/** Members on this thread, each with a part of the memory; some answers are lost with their members. */
	async function membersOf(count: number, deadly: () => boolean): Promise<Pool> {
		const module = await WebAssembly.compile(await wasm());
		const hosts = await Promise.all(
			Array.from({ length: 60 }, async () => {
				const guest = guestHeap(kernels.heap.memory, kernels.heap.alloc(4 << 20), 4 << 20);
				return createKernels(module, guest);
			}),
		);
		return createPool(count, (): Member => {
			const worker = createWorker(hosts.pop() as Kernels, crafts, codecs);
			let answer: (message: FromMember | null) => void = () => {};
			let dead = false;
			return {
				post(message: ToMember) {
					if ('word' in message) return worker.hear(structuredClone(message.word));
					const { n, work } = structuredClone(message);
					setTimeout(
						async () => {
							if (dead) return;
							if (deadly()) return answer(null);
							const { made } = await worker.work(work);
							if (!dead) answer({ n, made });
						},
						(n * 5) % 7,
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
	}

	test('is the same bytes as computed here, whoever dies, whatever changes meanwhile', async () => {
		const random = seeded(5);
		for (const [count, deaths] of [
			[1, 0],
			[2, 0.2],
			[4, 0.1],
		] as const) {
			const engine = openOn(kernels, everything());
			let left = 20;
			const pool = await membersOf(count, () => random() < deaths && left-- > 0);
			paint(engine, 'a', 'color', 3);
			paint(engine, 'b', 'color', 4);
			// While some is being made, a layer that others read is painted anew.
			await settleMixed(engine, pool, () => paint(engine, 'a', 'color', 8));
			const shown = Buffer.concat(
				Array.from({ length: 9 }, (_, tile) => {
					const out = kernels.heap.alloc(16384);
					engine.compositeTile('s', tile, out);
					return Buffer.from(kernels.heap.u8.slice(out, out + 16384));
				}),
			);
			const here = openOn(kernels, everything());
			paint(here, 'a', 'color', 3);
			paint(here, 'b', 'color', 4);
			paint(here, 'a', 'color', 8);
			here.refresh(() => false);
			const wanted = Buffer.concat(
				Array.from({ length: 9 }, (_, tile) => {
					const out = kernels.heap.alloc(16384);
					here.compositeTile('s', tile, out);
					return Buffer.from(kernels.heap.u8.slice(out, out + 16384));
				}),
			);
			expect(Buffer.compare(shown, wanted)).toBe(0);
			// Later changes are followed as if all had been made here: over seams too.
			for (const each of [engine, here]) paint(each, 'b', 'mask', 6);
			await settleMixed(engine, pool);
			expect(Buffer.compare(Buffer.from(engine.composite('s').data), Buffer.from(here.composite('s').data))).toBe(0);
			pool.end();
			engine.close();
			here.close();
		}
	}, 60_000);
	test('drafts and remembered steps that come back late change nothing of the end', async () => {
		const worn = (seed: number, width: number): Layer =>
			masked(washLayer('w', 'Wash', '#a8452b'), [
				step('edges', { width, mix: 'replace' }),
				step('clouds', { seed }),
				step('blur', { radius: 3 }),
			]);
		// Enough tiles for a draft to come first.
		const open = (layer: Layer): Engine => openEngine(kernels, projectOf(mesh, 768, [layer]), [], meshes);
		const turns = [
			[2, 30],
			[3, 30],
			[4, 24],
			[5, 24],
			[6, 24],
		] as const;
		const engine = open(worn(1, 30));
		const pool = await membersOf(2, () => false);
		let remembered = 0;
		let drafted = 0;
		pool.tell({ say: 'meshes', meshes });
		for (const [seed, width] of turns) {
			const change = { mask: worn(seed, width).mask };
			engine.run({ do: 'layer.change', sheet: 's', layer: 'w', change });
			const last = seed === turns.at(-1)?.[0];
			for (let n = 0; engine.due && n < (last ? 2000 : 30); n++) {
				while (pool.idle > 0) {
					const work = engine.lend(10);
					if (!work) break;
					remembered += work.prefix?.fields.length ?? 0;
					drafted += Number(work.draft);
					pool.tell({ say: 'project', project: engine.project });
					void pool.do(work, 1).then((made) => engine.returned(work, made));
				}
				// Whoever asked makes some of the same tiles well, while their drafts are still out.
				let few = 12;
				engine.refresh(() => few-- <= 0);
				await new Promise((next) => setTimeout(next, n % 4));
			}
		}
		expect(drafted).toBeGreaterThan(3);
		expect(remembered).toBeGreaterThan(10);
		const here = open(worn(6, 24));
		expect(Buffer.compare(picture(engine), picture(here))).toBe(0);
		// A draft that comes back when all was made well already.
		const change = { mask: worn(7, 24).mask };
		for (const each of [engine, here]) each.run({ do: 'layer.change', sheet: 's', layer: 'w', change });
		pool.tell({ say: 'project', project: engine.project });
		const late = engine.lend(100) as DeriveWork;
		expect(late.draft).toBe(true);
		const draft = await pool.do(late);
		expect(draft).not.toBeNull();
		for (const each of [engine, here]) each.refresh(() => false);
		engine.returned(late, draft);
		engine.refresh(() => false);
		expect(Buffer.compare(picture(engine), picture(here))).toBe(0);
		pool.end();
		engine.close();
		here.close();
	}, 60_000);
	test('a picture by the pool is one moment’s, or none', async () => {
		const engine = openOn(kernels, everything());
		const pool = await membersOf(3, () => false);
		paint(engine, 'a', 'color', 3);
		// What is still to be computed is not in any picture. Some loans come back while others are still out.
		expect(await pictureWith(engine, pool, 's')).toBe(null);
		await settleWith(engine, pool);
		const whole = Buffer.from(engine.composite('s').data);
		const picture = await pictureWith(engine, pool, 's');
		expect(Buffer.compare(Buffer.from(picture?.data ?? []), whole)).toBe(0);
		const late = pictureWith(engine, pool, 's');
		paint(engine, 'b', 'color', 4);
		expect(await late).toBe(null);
		engine.refresh(() => false);
		const lost = await membersOf(1, () => true);
		expect(await pictureWith(engine, lost, 's')).toBe(null);
		for (const each of [pool, lost]) each.end();
		engine.close();
	});
	test('is computed, and lent, from where the artist was last outwards', () => {
		const worn = masked(washLayer('w', 'Wash', '#a8452b'), [step('clouds')]);
		const engine = openOn(kernels, [worn]);
		engine.refresh(() => false);
		for (const [x, y] of [
			[10, 10],
			[150, 30],
			[70, 159],
		] as const) {
			engine.near('s', x, y);
			engine.run({
				do: 'layer.change',
				sheet: 's',
				layer: 'w',
				change: { mask: { surface: 'w-m', on: true, recipe: [step('clouds', { seed: x })] } },
			});
			const tile = Math.floor(y / 64) * 3 + Math.floor(x / 64);
			expect(engine.lend(1)?.tiles).toEqual([tile]);
			// What others have is told when it comes; what is made here begins beside it.
			let asked = 0;
			const beside = [...engine.refresh(() => asked++ > 0).values()].flat();
			expect(beside.length).toBe(1);
			const [dx, dy] = [
				((beside[0] as number) % 3) - (tile % 3),
				Math.floor((beside[0] as number) / 3) - Math.floor(tile / 3),
			];
			expect(Math.hypot(dx, dy)).toBe(1);
			engine.composite('s');
			engine.refresh(() => false);
		}
		engine.close();
	});
	test('bakes are left to others where there are any, few tiles at once, and come back where nobody could', () => {
		const project = projectOf(mesh, 160, [masked(washLayer('w', 'Wash', '#804020'), [step('clouds')])]);
		const bakes = [toneBake('b', 'Occlusion', 'occlusion', { rays: 16 })];
		const models = project.models.map((model) => ({ ...model, bakes }));
		const engine = openEngine(kernels, { ...project, models }, [], meshes);
		engine.refresh(() => false, true);
		// The mask is there; of the bake nothing is.
		expect(engine.left).toBe(9);
		const loan = engine.lend(100);
		expect([loan?.surface, loan?.tiles.length]).toEqual(['b~s', 2]);
		engine.refresh(() => false, true);
		expect(engine.left).toBe(9);
		engine.returned(loan as NonNullable<typeof loan>, null);
		engine.refresh(() => false, true);
		expect(engine.left).toBe(0);
		engine.close();
	});
	test('is not lent before what it reads is there', () => {
		const engine = openOn(kernels, everything());
		const first = engine.lend(100);
		const lent = new Set([first?.surface]);
		for (let work = first; work; work = engine.lend(100)) {
			lent.add(work.surface);
			for (const input of work.inputs) expect(lent.has(input.id)).toBe(false);
		}
		// What reads those waits for them; a whole picture waits for nobody.
		expect(engine.left).toBeGreaterThan(0);
		const whole = Buffer.from(engine.composite('s').data);
		const here = openOn(kernels, everything());
		expect(Buffer.compare(whole, Buffer.from(here.composite('s').data))).toBe(0);
		for (const each of [engine, here]) each.close();
	});
});

test('light of a whole sheet is made beside, tile after tile: the part of the memory is not filled with what it falls on', async () => {
	const layers = [
		paintLayer('a', 'A', { relief: { from: 'tone', height: 2, soft: 1 } }),
		lightLayer('l', 'Light', (lightPresets[0] as LightPreset).rig),
	];
	// 256 tiles of 80 KB would be more than twice of what a member has.
	const engine = openEngine(kernels, projectOf(mesh, 1024, layers), [], meshes);
	const pool = await openPool(kernels, 1);
	pool.tell({ say: 'meshes', meshes });
	pool.tell({ say: 'project', project: engine.project });
	let [asked, made] = [0, 0];
	for (let work = engine.lend(32); work; work = engine.lend(32)) {
		const back = await pool.do(work, 1);
		asked += work.tiles.length;
		engine.returned(work, back);
		if (!back) break;
		made += work.tiles.length;
	}
	expect(asked).toBeGreaterThan(255);
	expect(made).toBe(asked);
	pool.end();
	engine.close();
});
