/** Mask recipes in the kernels against their plain twins: patterns of chance, joins, shapers, runs of cells. */
import type { Kernels, Ptr } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { blurAlong, blurField, boxRadii, fieldAt } from '../src/raster/index.ts';
import { mixings, type Planes, type Triple, withPlanes } from '../src/recipe/index.ts';
import {
	alongAt,
	cloudsAt,
	contrasted,
	dripsAt,
	joins,
	noiseAt,
	scratchesAt,
	speckleAt,
	strokesAt,
} from './oracle/chance.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

/** Places as they lie under a row of cells: steps of a texel along a slanted line, with leaps now and then. */
const placesArb = fc
	.record({
		from: fc.array(fc.double({ min: -50, max: 50, noNaN: true }), { minLength: 3, maxLength: 3 }),
		step: fc.array(fc.double({ min: -0.2, max: 0.2, noNaN: true }), { minLength: 3, maxLength: 3 }),
		count: fc.integer({ min: 1, max: 203 }),
		leap: fc.integer({ min: 3, max: 60 }),
	})
	.map(({ from, step, count, leap }) =>
		Array.from({ length: count }, (_, i) =>
			from.map((v, k) => Math.fround(v + (step[k] as number) * i + 7 * Math.floor(i / leap))),
		),
	);
type Places = readonly (readonly number[])[];
const seedArb = fc.integer({ min: 0, max: 1e9 });
const share = fc.double({ min: 0, max: 1, noNaN: true });

const put = (planes: Planes, values: readonly number[]): Ptr => {
	const at = planes.take(values.length);
	planes.floats(at, values.length).set(values);
	// What lies past the end must not matter.
	planes.floats(at, values.length + 3).fill(Number.NaN, values.length);
	return at;
};
const triple = (planes: Planes, places: Places): Triple =>
	[0, 1, 2].map((k) =>
		put(
			planes,
			places.map((each) => each[k] as number),
		),
	) as unknown as Triple;

/** Texels off by more than 2 of 255 lie on hard rims, which single precision may move: seldom, and counted. */
let [off, all] = [0, 0];
function near(got: Float32Array, wanted: (i: number) => number): void {
	for (let i = 0; i < got.length; i++) {
		all++;
		const apart = Math.abs((got[i] as number) - wanted(i));
		if (!(apart <= 2 / 255)) off++;
	}
}
const made = (
	places: Places,
	kernel: (planes: Planes, at: Triple, out: Ptr) => void,
	twin: (...at: number[]) => number,
) =>
	withPlanes(kernels, (planes) => {
		const out = planes.take(places.length);
		kernel(planes, triple(planes, places), out);
		near(planes.floats(out, places.length), (i) => twin(...(places[i] as number[])));
	});

describe('patterns of chance are those of their plain twins', () => {
	const holds = (run: () => void): void => {
		[off, all] = [0, 0];
		run();
		expect(all).toBeGreaterThan(3000);
		// One of a thousand, and what chance adds to that in so few (three deviations of a Poisson count).
		const seldom = all / 1000;
		expect(off).toBeLessThanOrEqual(seldom + 3 * Math.sqrt(seldom) + 1);
	};
	test('noise and clouds', () =>
		holds(() =>
			fc.assert(
				fc.property(placesArb, seedArb, share, fc.integer({ min: 1, max: 5 }), (places, seed, rough, octaves) =>
					made(
						places,
						({ run }, at, out) => run.clouds(...at, places.length, 0.3, 0.2, 0.5, seed, octaves, rough, 3, out),
						(x = 0, y = 0, z = 0) => contrasted(cloudsAt(x * 0.3, y * 0.2, z * 0.5, seed, octaves, rough), 3),
					),
				),
			),
		));
	test.each([0, 1] as const)('speckle, flat %s', (flat) =>
		holds(() =>
			fc.assert(
				fc.property(placesArb, seedArb, share, share, (places, seed, dense, soft) =>
					made(
						places,
						(planes, at, out) =>
							planes.run.speckle(...at, places.length, 0.7, seed, dense, soft, flat, planes.take(135), out),
						(x = 0, y = 0, z = 0) => speckleAt(x * 0.7, y * 0.7, z * 0.7, seed, dense, soft, flat === 1),
					),
				),
			),
		),
	);
	test('scratches', () =>
		holds(() =>
			fc.assert(
				fc.property(
					placesArb,
					seedArb,
					share,
					share,
					fc.array(share, { minLength: 3, maxLength: 3 }),
					(places, seed, dense, thick, turns) => {
						const around = turns.flatMap((t) => [Math.cos(t * 6), Math.sin(t * 6)]);
						made(
							places,
							(planes, at, out) =>
								planes.run.scratched(...at, places.length, 0.1, put(planes, around), seed, dense, thick, out),
							(u = 0, v = 0, w = 0) => scratchesAt(u, v, w, 0.1, around, seed, dense, thick),
						);
					},
				),
			),
		));
	test('drips', () =>
		holds(() =>
			fc.assert(
				fc.property(
					placesArb,
					seedArb,
					share,
					fc.double({ min: 0.05, max: 10, noNaN: true }),
					(places, seed, dense, fall) =>
						made(
							places,
							({ run }, at, out) => run.dripped(...at, places.length, 0.2, fall, seed, dense, out),
							(u = 0, v = 0, w = 0) => dripsAt(u, v, w, 0.2, fall, seed, dense),
						),
				),
			),
		));
	test('brush strokes', () =>
		holds(() =>
			fc.assert(
				fc.property(
					placesArb,
					seedArb,
					share,
					fc.double({ min: 1, max: 20, noNaN: true }),
					(places, seed, turn, long) => {
						const [c, s] = [Math.fround(Math.cos(turn * 6)), Math.fround(Math.sin(turn * 6))];
						made(
							places,
							(planes, at, out) =>
								planes.run.brushed(...at, places.length, 0.2, c, s, long, seed, planes.take(45), out),
							(u = 0, v = 0, w = 0) => strokesAt(u, v, w, 0.2, c, s, long, seed),
						);
					},
				),
			),
		));
});

test('noise is one value a lattice place, and smooth between', () => {
	fc.assert(
		fc.property(fc.integer({ min: -99, max: 99 }), seedArb, (x, seed) => {
			const at = noiseAt(x, 3, -2, seed);
			return at >= 0 && at < 1 && Math.abs(noiseAt(x + 1e-6, 3, -2, seed) - at) < 1e-5;
		}),
	);
});

const fieldArb = fc
	.record({ width: fc.integer({ min: 1, max: 41 }), height: fc.integer({ min: 1, max: 41 }), seed: seedArb })
	.map(({ width, height, seed }) => ({
		width,
		height,
		tones: Float32Array.from({ length: width * height }, (_, i) =>
			Math.max(0, noiseAt(i * 0.37, i * 0.11, 0.5, seed) * 1.6 - 0.3),
		),
	}));
const worked = (tones: Float32Array, work: (planes: Planes, field: Ptr) => Ptr | undefined): Float32Array =>
	withPlanes(kernels, (planes) => {
		const field = put(planes, [...tones]);
		return planes.floats(work(planes, field) ?? field, tones.length).slice();
	});
const furthest = (a: Float32Array, b: ArrayLike<number>): number =>
	a.reduce((most, v, i) => Math.max(most, Math.abs(v - (b[i] as number))), 0);

describe('fields', () => {
	test('sources join by their formulas', () => {
		fc.assert(
			fc.property(
				fc.constantFrom(...mixings),
				fc.array(fc.tuple(share, share), { minLength: 1, maxLength: 40 }),
				share,
				(how, pairs, amount) => {
					const got = worked(
						Float32Array.from(pairs, ([a]) => a),
						(planes, field) => {
							planes.run.joinFields(
								mixings.indexOf(how),
								field,
								put(
									planes,
									pairs.map(([, b]) => b),
								),
								pairs.length,
								amount,
							);
							return undefined;
						},
					);
					const join = joins[how] as (a: number, b: number) => number;
					const wanted = pairs.map(([a, b]) => {
						const [fa, fb] = [Math.fround(a), Math.fround(b)];
						return fa + (join(fa, fb) - fa) * amount;
					});
					return furthest(got, wanted) < 1e-5;
				},
			),
		);
	});
	test('levels, with any middle', () => {
		fc.assert(
			fc.property(
				fieldArb,
				share,
				share,
				fc.double({ min: 0.1, max: 10, noNaN: true }),
				({ tones }, black, range, power) => {
					const over = 1 / Math.max(0.004, range);
					const got = worked(tones, ({ run }, field) => void run.levelField(field, tones.length, black, over, power));
					return (
						furthest(
							got,
							tones.map((v) => Math.min(1, Math.max(0, (v - black) * over)) ** power),
						) < 3e-4
					);
				},
			),
		);
	});
	test('blur, along both ways and along a line, with borders that go on', () => {
		fc.assert(
			fc.property(
				fieldArb,
				fc.double({ min: 0, max: 20, noNaN: true }),
				fc.double({ min: 0, max: 3, noNaN: true }),
				({ width, height, tones }, size, angle) => {
					const soft = worked(tones, (planes, field) => {
						const lines = planes.take(8 * Math.max(width, height));
						for (const r of boxRadii(size)) planes.run.boxField(field, width, height, r, lines);
						return undefined;
					});
					const taps = Math.max(1, Math.ceil(size));
					const along = worked(tones, (planes, field) => {
						const by = Math.ceil(size / 2) + 1;
						const wide = planes.take((width + 2 * by) * (height + 2 * by));
						planes.run.widenField(field, width, height, by, wide);
						planes.run.smudgeField(wide, width, height, by, taps, size, Math.cos(angle), Math.sin(angle), field);
						return undefined;
					});
					const plainAlong = size < 0.5 ? along : blurAlong(tones, width, height, size, angle);
					return (
						furthest(soft, blurField(tones.slice(), width, height, size)) < 1e-4 && furthest(along, plainAlong) < 1e-4
					);
				},
			),
		);
	});
	test('warps follow the slope, no further than they may', () => {
		fc.assert(
			fc.property(
				fieldArb,
				fc.double({ min: -30, max: 30, noNaN: true }),
				fc.double({ min: 0, max: 9, noNaN: true }),
				({ width, height, tones }, by, most) => {
					const clouds = tones.map((v, i) => (v + i / tones.length) / 2);
					const got = worked(tones, (planes, field) => {
						const out = planes.take(tones.length);
						planes.run.warpField(field, put(planes, [...clouds]), width, height, by, most, out);
						return out;
					});
					const slope = (a: number, b: number): number =>
						Math.min(most, Math.max(-most, ((clouds[b] as number) - (clouds[a] as number)) * by));
					return (
						furthest(
							got,
							tones.map((_, i) => {
								const [x, y] = [i % width, Math.floor(i / width)];
								const dx = slope(x > 0 ? i - 1 : i, x + 1 < width ? i + 1 : i);
								const dy = slope(y > 0 ? i - width : i, y + 1 < height ? i + width : i);
								return fieldAt(tones, width, height, x + 0.5 + dx, y + 0.5 + dy);
							}),
						) < 1e-3
					);
				},
			),
		);
	});
});

test('runs of cells: what is wanted, taken and put back, is theirs and no other', () => {
	fc.assert(
		fc.property(
			fc.array(fc.tuple(fc.integer({ min: -1, max: 2 }), fc.constantFrom(0, 0.5)), { minLength: 1, maxLength: 50 }),
			(cells) =>
				withPlanes(kernels, (planes) => {
					const { run } = planes;
					const faces = planes.take(cells.length);
					planes.ints(faces, cells.length).set(cells.map(([face]) => face));
					const only = put(
						planes,
						cells.map(([, tone]) => tone),
					);
					const index = planes.take(cells.length);
					const count = run.wantedCells(faces, only, cells.length, index);
					const wanted = cells.flatMap(([face, tone], i) => (face >= 0 && tone > 0 ? [i] : []));
					expect([...planes.ints(index, count)]).toEqual(wanted);
					const values = planes.take(count);
					run.takeCells(
						index,
						count,
						put(
							planes,
							cells.map((_, i) => i),
						),
						values,
					);
					expect([...planes.floats(values, count)]).toEqual(wanted);
					const back = put(
						planes,
						cells.map(() => -1),
					);
					run.putCells(index, count, values, back);
					expect([...planes.floats(back, cells.length)]).toEqual(cells.map((_, i) => (wanted.includes(i) ? i : -1)));
				}),
		),
	);
});

test('places and normals are what their faces say, and ways along a surface lie across and down it', () => {
	const real = fc.double({ min: -1, max: 1, noNaN: true });
	fc.assert(
		fc.property(
			fc.integer({ min: 1, max: 19 }),
			fc.array(fc.integer({ min: -1, max: 2 }), { minLength: 1, maxLength: 60 }),
			fc.array(real, { minLength: 27, maxLength: 27 }),
			fc.constantFrom(0, 1),
			(width, runs, numbers, unit) =>
				withPlanes(kernels, (planes) => {
					const height = Math.ceil((runs.length * 3) / width);
					const cells = Array.from({ length: width * height }, (_, i) => runs[Math.floor(i / 3)] ?? -1);
					const at = planes.take(cells.length);
					planes.ints(at, cells.length).set(cells);
					const out = [0, 1, 2].map(() => planes.take(cells.length)) as [Ptr, Ptr, Ptr];
					planes.run.placeCells(at, width, height, put(planes, numbers), unit as 0 | 1, ...out);
					const got = out.map((plane) => planes.floats(plane, cells.length));
					cells.forEach((face, i) => {
						const [x, y] = [i % width, Math.floor(i / width)];
						const plain = [0, 1, 2].map((k) => {
							const t = face * 9 + k * 3;
							return face < 0
								? 0
								: (numbers[t] as number) * x + (numbers[t + 1] as number) * y + (numbers[t + 2] as number);
						});
						const long = unit && face >= 0 ? Math.hypot(...plain) : 1;
						if (long < 0.05) return;
						plain.forEach((v, k) => {
							expect((got[k] as Float32Array)[i]).toBeCloseTo(v / long, 3);
						});
					});
				}),
		),
	);
	const vector = fc.tuple(real, real, real);
	fc.assert(
		fc.property(fc.array(fc.tuple(vector, vector), { minLength: 1, maxLength: 9 }), (pairs) =>
			withPlanes(kernels, (planes) => {
				const normals = pairs.map(([, n]) => n.map((v) => v / (Math.hypot(...n) || 1)));
				const to = [0, 1, 2].map(() => planes.take(pairs.length)) as [Ptr, Ptr, Ptr];
				planes.run.alongSurface(
					...triple(
						planes,
						pairs.map(([p]) => p),
					),
					...triple(planes, normals),
					pairs.length,
					...to,
				);
				pairs.forEach(([p], i) => {
					const n = normals[i] as number[];
					if (Math.abs(Math.hypot(n[0] as number, n[2] as number) - 0.05) < 1e-3) return;
					alongAt(p, n).forEach((v, k) => {
						expect(planes.floats(to[k as 0 | 1 | 2], pairs.length)[i]).toBeCloseTo(v, 3);
					});
				});
			}),
		),
	);
});

/** A plane of whole numbers; past its end there is what must not be looked at. */
const putInts = (planes: Planes, values: readonly number[]): Ptr => {
	const at = planes.take(values.length);
	planes.ints(at, values.length + 3).fill(0x7ffffff0);
	planes.ints(at, values.length).set(values);
	return at;
};

test('edges: bands along those of the cell’s own island, as wide and soft as they are told', () => {
	const at = fc.double({ min: -20, max: 60, noNaN: true });
	const edge = fc.record({ ax: at, ay: at, bx: at, by: at, island: fc.integer({ min: 0, max: 2 }) });
	const size = fc.integer({ min: 1, max: 23 });
	fc.assert(
		fc.property(
			size,
			size,
			fc.array(edge, { maxLength: 5 }),
			fc.constantFrom(1, 4),
			fc.double({ min: 0.5, max: 20, noNaN: true }),
			share,
			(width, height, edges, step, wide, soft) =>
				withPlanes(kernels, (planes) => {
					const faces = Array.from({ length: width * height }, (_, i) => (i % 7) - 1);
					const islands = [0, 0, 1, 1, 2, 2];
					const cells = putInts(planes, faces);
					const list = planes.take(edges.length * 5);
					edges.forEach(({ ax, ay, bx, by, island }, n) => {
						planes.floats(list, edges.length * 5).set([ax, ay, bx - ax, by - ay], n * 5);
						planes.ints(list, edges.length * 5)[n * 5 + 4] = island;
					});
					const field = planes.take(faces.length);
					const [inner, reach] = [wide * (1 - soft), wide * (1 + soft)];
					const end = Math.max(reach, inner + 0.7);
					planes.run.fillField(field, faces.length, Infinity);
					const of = putInts(planes, islands);
					planes.run.edgeSquares(cells, width, height, of, 3, 5, step, list, edges.length, reach, field);
					planes.run.bandField(field, faces.length, inner, end, reach);
					const got = planes.floats(field, faces.length);
					faces.forEach((face, i) => {
						const [x, y] = [3 + (i % width) * step, 5 + Math.floor(i / width) * step];
						const own = edges.filter(({ island }) => face >= 0 && island === islands[face]);
						const distance = Math.min(
							...own.map(({ ax, ay, bx, by }) => {
								const [dx, dy] = [bx - ax, by - ay];
								const t = Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / (dx * dx + dy * dy || 1e-9)));
								return Math.hypot(x - ax - t * dx, y - ay - t * dy);
							}),
						);
						const t = Math.min(1, Math.max(0, (distance - inner) / (end - inner)));
						const tone = distance > reach ? 0 : 1 - t * t * (3 - 2 * t);
						// On the rim itself single precision may fall either way.
						if (Math.abs(distance - reach) > 1e-3) expect(Math.abs((got[i] as number) - tone)).toBeLessThan(2 / 255);
					});
				}),
		),
	);
});

test('ramps and places of cells that show other places', () => {
	const real = fc.double({ min: -2, max: 2, noNaN: true });
	fc.assert(
		fc.property(
			fc.array(fc.tuple(fc.integer({ min: -1, max: 2 }), real, real, real), { minLength: 1, maxLength: 30 }),
			real,
			real,
			fc.array(real, { minLength: 27, maxLength: 27 }),
			fc.constantFrom(0, 1),
			(rows, by, add, table, unit) =>
				withPlanes(kernels, (planes) => {
					const cells = putInts(
						planes,
						rows.map(([face]) => face),
					);
					const plane = put(
						planes,
						rows.map(([, v]) => v),
					);
					const out = planes.take(rows.length);
					planes.run.rampCells(cells, plane, rows.length, by, add, out);
					rows.forEach(([face, v], i) => {
						const tone = face < 0 ? 0 : Math.min(1, Math.max(0, v * by + add));
						expect(planes.floats(out, rows.length)[i]).toBeCloseTo(tone, 4);
					});
					const some = rows.flatMap(([face], i) => (face >= 0 ? [i] : []));
					const to = [0, 1, 2].map(() => planes.take(rows.length)) as [Ptr, Ptr, Ptr];
					const [px, py] = [2, 3].map((k) =>
						put(
							planes,
							some.map((i) => (rows[i] as number[])[k] as number),
						),
					) as [Ptr, Ptr];
					planes.run.placeSome(
						putInts(planes, some),
						px,
						py,
						some.length,
						cells,
						0.5,
						-1,
						2,
						put(planes, table),
						unit as 0 | 1,
						...to,
					);
					for (const i of some) {
						const [face, , x, y] = rows[i] as [number, number, number, number];
						const plain = [0, 1, 2].map((k) => {
							const t = face * 9 + k * 3;
							return (
								((table[t] as number) * (x - 0.5)) / 2 +
								((table[t + 1] as number) * (y + 1)) / 2 +
								(table[t + 2] as number)
							);
						});
						const long = unit ? Math.hypot(...plain) : 1;
						if (long < 0.05) continue;
						plain.forEach((v, k) => {
							expect(planes.floats(to[k as 0 | 1 | 2], rows.length)[i]).toBeCloseTo(v / long, 3);
						});
					}
				}),
		),
	);
});

test('a draft drawn out to texels lies between its cells', () => {
	fc.assert(
		fc.property(
			fieldArb,
			fc.integer({ min: 1, max: 70 }),
			fc.integer({ min: 1, max: 30 }),
			fc.integer({ min: 0, max: 9 }),
			({ width, height, tones }, outWidth, outHeight, off) =>
				withPlanes(kernels, (planes) => {
					for (let i = 0; i < tones.length; i++) tones[i] = Math.min(1, tones[i] as number);
					const [lines, out] = [planes.take(2 * outWidth + 8), planes.take(outWidth * outHeight)];
					const alike = planes.run.finerBytes(
						put(planes, [...tones]),
						width,
						height,
						4,
						off,
						off + 1,
						lines,
						out,
						outWidth,
						outHeight,
					);
					const got = planes.bytes(out, outWidth * outHeight);
					if (alike >= 0) got.fill(alike);
					for (let i = 0; i < got.length; i++) {
						const [x, y] = [(i % outWidth) + 0.5 + off, Math.floor(i / outWidth) + 1.5 + off];
						const tone = 255 * fieldAt(tones, width, height, x / 4, y / 4);
						expect(Math.abs((got[i] as number) - tone)).toBeLessThan(0.51);
					}
				}),
		),
	);
});
