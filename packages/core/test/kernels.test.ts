import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { seeded } from './oracle/surfaces.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const place = (bytes: Uint8Array): number => {
	const at = kernels.heap.alloc(bytes.length + 64);
	kernels.heap.u8.set(bytes, at);
	return at;
};
const read = (at: number, bytes: number): Uint8Array => kernels.heap.u8.slice(at, at + bytes);
const u16 = (values: Uint16Array): Uint8Array => new Uint8Array(values.buffer.slice(0));

/** Coverage of a soft disc at a distance, 0..65535: the plain twin of the kernels' rim. */
const rim = (distance: number, radius: number, slope: number): number => {
	const f = Math.min(1, Math.max(0, (radius - distance) * slope));
	return 65535 * f * f * (3 - 2 * f);
};
const pile = (c: number, v: number): number => c + ((65535 - c) * v) / 65535;

/** Index of a texel in coverage of `cols` tiles a row. */
const tiled = (x: number, y: number, cols: number): number =>
	((y >> 6) * cols + (x >> 6)) * 4096 + (y & 63) * 64 + (x & 63);

describe('flat dabs', () => {
	const dab = fc.record({
		x: fc.double({ min: -20, max: 148, noNaN: true }),
		y: fc.double({ min: -20, max: 148, noNaN: true }),
		radius: fc.double({ min: 0.5, max: 40, noNaN: true }),
		soft: fc.double({ min: 0, max: 1, noNaN: true }),
		strength: fc.double({ min: 0, max: 1, noNaN: true }),
		buildUp: fc.boolean(),
	});

	test('set what the formula says, wherever they lie, and mark the tiles they touch', () => {
		fc.assert(
			fc.property(fc.array(dab, { minLength: 1, maxLength: 4 }), (dabs) => {
				const cols = 2;
				const cov = place(new Uint8Array(cols * 2 * 8192));
				const touched = place(new Uint8Array(cols * 2));
				const want = new Float64Array(cols * 2 * 4096);
				for (const { x, y, radius, soft, strength, buildUp } of dabs) {
					const slope = 1 / Math.max(1, soft * radius);
					const half = Math.ceil(radius) + 1;
					const [ox, oy] = [Math.floor(x) - half, Math.floor(y) - half];
					const side = 2 * half + 1;
					const tip = place(new Uint8Array(side * (side + 16) * 2 + 32));
					const k = Math.round(strength * 65536);
					kernels.run.roundTip(tip, side, x - ox, y - oy, radius, slope, 1, 0, 0, 1);
					kernels.run.stampFlat(cov, touched, cols, 2, tip, side, ox, oy, k, buildUp ? 1 : 0, 0, 0, 0);
					kernels.heap.free(tip, side * (side + 16) * 2 + 96);
					for (let ty = 0; ty < 128; ty++)
						for (let tx = 0; tx < 128; tx++) {
							const v = (rim(Math.hypot(tx + 0.5 - x, ty + 0.5 - y), radius, slope) * k) / 65536;
							const i = tiled(tx, ty, cols);
							want[i] = buildUp ? pile(want[i] as number, v) : Math.max(want[i] as number, v);
						}
				}
				const got = new Uint16Array(read(cov, cols * 2 * 8192).buffer);
				const marks = read(touched, 4);
				let worst = 0;
				got.forEach((v, i) => (worst = Math.max(worst, Math.abs(v - (want[i] as number)))));
				got.forEach((v, i) => {
					if (v) expect(marks[i >> 12]).toBe(1);
				});
				kernels.heap.free(cov, cols * 2 * 8192 + 64);
				kernels.heap.free(touched, cols * 2 + 64);
				// Float rounding at the rim: well under a thousandth of full coverage.
				return worst <= 24;
			}),
			{ numRuns: 60 },
		);
	});
});

test('dabs through records set the formula on the texels that the records name', () => {
	fc.assert(
		fc.property(
			fc.integer({ min: 1, max: 400 }),
			fc.integer({ min: 1, max: 90 }),
			fc.boolean(),
			(seed, count, buildUp) => {
				const random = seeded(seed);
				const cov = place(new Uint8Array(8192));
				const touched = place(new Uint8Array(1));
				const texels = Uint32Array.from({ length: count }, (_, i) => (i * 37) % 4096);
				const places = Uint32Array.from(
					{ length: count },
					() => Math.floor(random() * 65505) | (Math.floor(random() * 65505) << 16),
				);
				// Each record takes its own share of the dab, 0..63.
				const weights = texels.map((_, i) => (i % 3 === 0 ? 63 : Math.floor(random() * 64)));
				const words = texels.map((texel, i) => (texel | ((weights[i] as number) << 26)) >>> 0);
				const [t, p] = [place(new Uint8Array(words.buffer)), place(new Uint8Array(places.buffer))];
				const [ox, oy, radius, slope, full] = [
					-14 - random() * 5,
					-9 - random() * 6,
					4 + random() * 14,
					1 / 4,
					Math.round(20000 + random() * 45535),
				];
				for (let i = 0; i < 2; i++)
					kernels.run.dabRecords(
						t,
						p,
						count,
						cov,
						touched,
						ox,
						oy,
						radius,
						slope,
						full,
						buildUp ? 1 : 0,
						1,
						0,
						0,
						1,
						0,
						0,
					);
				const got = new Uint16Array(read(cov, 8192).buffer);
				return texels.every((texel, i) => {
					const d = Math.hypot(((places[i] as number) & 65535) / 2047 + ox, ((places[i] as number) >>> 16) / 2047 + oy);
					const whole = d < radius ? (rim(d, radius, slope) * full) / 65535 : 0;
					const v = (whole * (weights[i] as number)) / 63;
					const want = buildUp ? pile(v, v) : v;
					return Math.abs((got[texel] as number) - want) <= 24;
				});
			},
		),
		{ numRuns: 100 },
	);
});

/** The plain twin of laying: straight alpha over, one texel. */
const layTwin = (p: readonly number[], s: number, color: readonly number[], lock: boolean): number[] => {
	const ba = (p[3] as number) / 255;
	const after = s + ba * (1 - s);
	const share = lock ? s : after > 0 ? s / after : 0;
	return [
		...[0, 1, 2].map((i) => (p[i] as number) + ((color[i] as number) - (p[i] as number)) * share),
		lock ? (p[3] as number) : 255 * after,
	];
};

describe('laying', () => {
	const tile = (seed: number, alphas: readonly number[]): Uint8Array => {
		const random = seeded(seed);
		return Uint8Array.from({ length: 16384 }, (_, i) =>
			i % 4 === 3 ? (alphas[Math.floor(random() * alphas.length)] as number) : random() * 256,
		);
	};
	const cover = (seed: number): Uint16Array => {
		const random = seeded(seed);
		return Uint16Array.from({ length: 4096 }, (_, i) => (i % 5 === 0 ? 0 : i % 7 === 0 ? 65535 : random() * 65536));
	};

	test.each([
		['opaque paint', [255], false],
		['half clear paint', [0, 1, 60, 200, 255], false],
		['paint whose shape is kept', [0, 60, 255], true],
	] as const)('on %s gives straight alpha over, to the rounding', (_name, alphas, lock) => {
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 1e6 }), fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255)), (seed, color) => {
				const [before, cov] = [tile(seed, alphas), cover(seed + 1)];
				const out = place(new Uint8Array(16384));
				const [b, c] = [place(before), place(u16(cov))];
				kernels.run.layColor(b, 32, c, out, color[0], color[1], color[2], lock ? 1 : 0);
				const got = read(out, 16384);
				for (const [at, bytes] of [
					[out, 16448],
					[b, 16448],
					[c, 8256],
				] as const)
					kernels.heap.free(at, bytes);
				for (let i = 0; i < 4096; i++) {
					const want = layTwin([...before.subarray(i * 4, i * 4 + 4)], (cov[i] as number) / 65535, color, lock);
					for (let k = 0; k < 4; k++)
						if (Math.abs((got[i * 4 + k] as number) - (want[k] as number)) > 0.52) return false;
				}
				return true;
			}),
			{ numRuns: 25 },
		);
	});

	test('wiping takes alpha by coverage and leaves the colour under it', () => {
		const [before, cov] = [tile(3, [0, 40, 255]), cover(4)];
		const out = place(new Uint8Array(16384));
		kernels.run.wipeColor(place(before), 32, place(u16(cov)), out);
		const got = read(out, 16384);
		for (let i = 0; i < 4096; i++) {
			expect([...got.subarray(i * 4, i * 4 + 3)]).toEqual([...before.subarray(i * 4, i * 4 + 3)]);
			expect(
				Math.abs((got[i * 4 + 3] as number) - (before[i * 4 + 3] as number) * (1 - (cov[i] as number) / 65535)),
			).toBeLessThanOrEqual(0.51);
		}
	});

	test('a mask moves towards the value by coverage', () => {
		const random = seeded(8);
		const before = Uint8Array.from({ length: 4096 }, () => random() * 256);
		const cov = cover(9);
		const out = place(new Uint8Array(4096));
		kernels.run.layMask(place(before), 8, place(u16(cov)), out, 200);
		read(out, 4096).forEach((v, i) => {
			const want = (before[i] as number) + (200 - (before[i] as number)) * ((cov[i] as number) / 65535);
			expect(Math.abs(v - want)).toBeLessThanOrEqual(0.51);
		});
	});
});

describe('what a tile holds', () => {
	const color = (f: (i: number) => readonly number[]): number =>
		kernels.run.classifyColor(place(Uint8Array.from({ length: 16384 }, (_, i) => f(i >> 2)[i % 4] as number)));
	test('colour: nothing, one value, mixed, mixed but opaque', () => {
		expect(color((i) => [i & 255, 3, 4, 0])).toBe(0);
		expect(color(() => [9, 8, 7, 90])).toBe(1);
		expect(color((i) => [9, 8, 7, i === 4095 ? 254 : 255])).toBe(2);
		expect(color((i) => [i === 4095 ? 8 : 9, 8, 7, 255])).toBe(3);
	});
	test('mask: nothing, one value, mixed', () => {
		const mask = (f: (i: number) => number): number =>
			kernels.run.classifyMask(place(Uint8Array.from({ length: 4096 }, (_, i) => f(i))));
		expect(mask(() => 0)).toBe(0);
		expect(mask(() => 77)).toBe(1);
		expect(mask((i) => (i === 4090 ? 1 : 0))).toBe(2);
	});
});

test('the heap hands blocks out again and counts what is out', () => {
	const { heap } = kernels;
	const used = heap.used;
	const blocks = Array.from({ length: 50 }, (_, i) => heap.alloc(1000 + i));
	expect(new Set(blocks).size).toBe(50);
	expect(blocks.every((at) => at % 64 === 0)).toBe(true);
	blocks.forEach((at, i) => heap.free(at, 1000 + i));
	expect(heap.used).toBe(used);
	expect(blocks).toContain(heap.alloc(1010));
});
