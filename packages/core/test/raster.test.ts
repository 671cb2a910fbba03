import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import fc from 'fast-check';
import {
	type Affine,
	after,
	blurAlong,
	blurField,
	grownField,
	identity,
	inverseOf,
	mappedPath,
	pathCoverage,
	pathRect,
	resampled,
	signedDistances,
	squaredDistances,
} from '../src/raster/index.ts';
import { seeded } from './oracle/surfaces.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const range = fc.double({ min: -6, max: 38, noNaN: true });

/** The area of a polygon within a texel: cut along each of its sides (I. Sutherland, G. Hodgman, 1974). */
function areaIn(points: readonly (readonly [number, number])[], x: number, y: number): number {
	let left = [...points];
	for (const [axis, at, keep] of [
		[0, x, 1],
		[0, x + 1, -1],
		[1, y, 1],
		[1, y + 1, -1],
	] as const) {
		const inside = (p: readonly [number, number]): number => (p[axis] - at) * keep;
		left = left.flatMap((p, i) => {
			const q = left[(i + 1) % left.length] as readonly [number, number];
			const [a, b] = [inside(p), inside(q)];
			const t = a / (a - b);
			const cut = [p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t] as const;
			return [...(a >= 0 ? [p] : []), ...(a >= 0 !== b >= 0 ? [cut] : [])];
		});
	}
	const doubled = left.reduce((sum, p, i) => {
		const q = left[(i + 1) % left.length] as readonly [number, number];
		return sum + p[0] * q[1] - q[0] * p[1];
	}, 0);
	return Math.abs(doubled) / 2;
}

test('a path covers texels by area, exactly to a few steps of 255', () => {
	fc.assert(
		fc.property(fc.array(fc.tuple(range, range), { minLength: 3, maxLength: 3 }), (points) => {
			const got = pathCoverage([Float64Array.from(points.flat())], { x: 0, y: 0, width: 32, height: 32 });
			for (let i = 0; i < 1024; i++)
				if (Math.abs((got[i] as number) - 255 * areaIn(points, i % 32, Math.floor(i / 32))) > 8) return false;
			return true;
		}),
		{ numRuns: 100 },
	);
});

test('a path is counted the same in any rectangle it is read in', () => {
	const path = [Float64Array.from([3.3, 2.1, 55.7, 18.4, 30.2, 60.9, -9.5, 31])];
	const whole = pathCoverage(path, { x: 0, y: 0, width: 64, height: 64 });
	for (const [x, y, width, height] of [
		[20, 8, 24, 30],
		[0, 30, 40, 34],
		[40, 0, 24, 64],
	] as const) {
		const part = pathCoverage(path, { x, y, width, height });
		for (let i = 0; i < part.length; i++) {
			const there = whole[(y + Math.floor(i / width)) * 64 + x + (i % width)] as number;
			expect(Math.abs((part[i] as number) - there)).toBeLessThanOrEqual(1);
		}
	}
	expect(pathRect(path)).toEqual({ x: -10, y: 2, width: 66, height: 59 });
});

test('distances equal those to every cell of the set, looked at one by one', () => {
	const random = seeded(5);
	const [w, h] = [31, 23];
	const set = Uint8Array.from({ length: w * h }, () => (random() < 0.04 ? 1 : 0));
	const got = squaredDistances((i) => set[i] === 1, w, h);
	for (let i = 0; i < w * h; i++) {
		let least = Infinity;
		set.forEach((v, j) => {
			if (v) least = Math.min(least, ((i % w) - (j % w)) ** 2 + (Math.floor(i / w) - Math.floor(j / w)) ** 2);
		});
		expect(got[i]).toBe(least);
	}
	expect(squaredDistances(() => false, 4, 4)[5]).toBe(Infinity);
});

test('the nearest cell of a set is told with its distance', () => {
	const random = seeded(9);
	const [w, h] = [27, 34];
	const set = Uint8Array.from({ length: w * h }, () => (random() < 0.03 ? 1 : 0));
	const nearest = new Int32Array(w * h);
	const got = squaredDistances((i) => set[i] === 1, w, h, nearest);
	nearest.forEach((j, i) => {
		expect(set[j]).toBe(1);
		expect(((i % w) - (j % w)) ** 2 + (Math.floor(i / w) - Math.floor(j / w)) ** 2).toBe(got[i]);
	});
});

test('a field grown by a disc is the highest value in it, row by row by its share; shrinking is the same of the rest', () => {
	const [w, h] = [19, 23];
	const plain = (field: Float32Array, by: number): Float32Array =>
		field.map((own, i) => {
			const [x, y] = [i % w, Math.floor(i / w)];
			const row = (yy: number, half: number): number => {
				let most = 0;
				for (let xx = Math.max(0, x - half); xx <= Math.min(w - 1, x + half); xx++)
					most = Math.max(most, field[yy * w + xx] as number);
				return most;
			};
			let best = own;
			for (let dy = -Math.ceil(by); dy <= Math.ceil(by); dy++) {
				if (y + dy < 0 || y + dy >= h) continue;
				const half = Math.abs(dy) > by ? 0 : Math.sqrt(by * by - dy * dy);
				const part = half - Math.floor(half);
				const v = (1 - part) * row(y + dy, Math.floor(half)) + part * row(y + dy, Math.floor(half) + 1);
				best = Math.max(best, v * (Math.abs(dy) > by ? by - Math.abs(dy) + 1 : 1));
			}
			return best;
		});
	fc.assert(
		fc.property(fc.double({ min: 0.2, max: 40, noNaN: true }), fc.integer(), (by, seed) => {
			const random = seeded(seed);
			const field = Float32Array.from({ length: w * h }, () => (random() < 0.1 ? random() : 0));
			const [grown, slow] = [grownField(kernels, field, w, h, by), plain(field, by)];
			const rest = grownField(
				kernels,
				field.map((v) => 1 - v),
				w,
				h,
				-by,
			);
			for (let i = 0; i < field.length; i++) {
				expect(grown[i]).toBeCloseTo(slow[i] as number, 5);
				expect(rest[i]).toBeCloseTo(1 - (slow[i] as number), 5);
			}
		}),
		{ numRuns: 40 },
	);
	expect([...grownField(kernels, Float32Array.from([0, 0.5, 1, 0]), 2, 2, 0)]).toEqual([0, 0.5, 1, 0]);
});

test('the signed distance to a drawn disc is the closed form to within a texel', () => {
	const [w, r, c] = [64, 20.4, 31.7];
	const disc = Float64Array.from(
		Array.from({ length: 200 }, (_, i) => [
			c + r * Math.cos((i * Math.PI) / 100),
			c + r * Math.sin((i * Math.PI) / 100),
		]).flat(),
	);
	const got = signedDistances(pathCoverage([disc], { x: 0, y: 0, width: w, height: w }), w, w);
	let worst = 0;
	for (let i = 0; i < w * w; i++) {
		const true_ = Math.hypot((i % w) + 0.5 - c, Math.floor(i / w) + 0.5 - c) - r;
		worst = Math.max(worst, Math.abs((got[i] as number) - true_));
	}
	expect(worst).toBeLessThan(0.8);
});

test('the blur is a Gauss blur: a point becomes its bell, and a constant stays', () => {
	const [w, sigma] = [81, 6];
	const field = new Float32Array(w * w);
	field[40 * w + 40] = 1;
	blurField(field, w, w, sigma);
	const peak = 1 / (2 * Math.PI * sigma * sigma);
	for (let x = 0; x < w; x++) {
		const bell = peak * Math.exp(-((x - 40) ** 2) / (2 * sigma * sigma));
		expect(Math.abs((field[40 * w + x] as number) - bell)).toBeLessThan(0.07 * peak);
	}
	expect(blurField(new Float32Array(100).fill(0.7), 10, 10, 2).every((v) => Math.abs(v - 0.7) < 1e-5)).toBe(true);
});

test('a blur along a direction leaves what does not change in that direction', () => {
	const w = 40;
	const stripes = Float32Array.from({ length: w * w }, (_, i) => (Math.floor(i / w) % 8 < 4 ? 1 : 0));
	const along = blurAlong(stripes, w, w, 12, 0);
	const across = blurAlong(stripes, w, w, 16, Math.PI / 2);
	expect(along.every((v, i) => Math.abs(v - (stripes[i] as number)) < 1e-5)).toBe(true);
	expect(Math.abs((across[20 * w + 20] as number) - 0.5)).toBeLessThan(0.08);
});

test('maps undo each other, and paths go through them', () => {
	fc.assert(
		fc.property(
			fc.double({ min: -3, max: 3, noNaN: true }),
			fc.double({ min: 0.2, max: 4, noNaN: true }),
			(angle, k) => {
				const map: Affine = [k * Math.cos(angle), -Math.sin(angle), 5, k * Math.sin(angle), Math.cos(angle), -3];
				const back = inverseOf(map);
				if (!back) return false;
				return after(back, map).every((v, i) => Math.abs(v - (identity[i] as number)) < 1e-9);
			},
		),
	);
	expect(inverseOf([1, 2, 0, 2, 4, 0])).toBeNull();
	expect([...(mappedPath([Float64Array.from([1, 2])], [0, 1, 3, 1, 0, 4])[0] as Float64Array)]).toEqual([5, 5]);
});

test('turning by quarters is exact both ways of reading; smooth turning keeps colour under thin alpha', () => {
	const random = seeded(9);
	const rect = { x: 2, y: 3, width: 9, height: 9 };
	const data = Uint8Array.from({ length: 9 * 9 * 4 }, () => Math.floor(random() * 256));
	// About the block's middle (6.5, 7.5) by 90 degrees; read backwards.
	const back: Affine = [0, 1, -1, -1, 0, 14];
	for (const smooth of [false, true]) {
		const got = resampled({ rect, bytes: 4, data }, rect, back, smooth);
		for (let i = 0; i < 81; i++) {
			const [x, y] = [(i % 9) + 2.5, Math.floor(i / 9) + 3.5];
			const from = (Math.floor(14 - x) - 3) * 9 + Math.floor(y - 1) - 2;
			const a = data[from * 4 + 3] as number;
			for (let k = a ? 0 : 3; k < 4; k++) expect(got[i * 4 + k]).toBe(data[from * 4 + k]);
		}
	}
	const thin = Uint8Array.from([200, 40, 10, 255, 0, 0, 0, 0]);
	const half = resampled(
		{ rect: { x: 0, y: 0, width: 2, height: 1 }, bytes: 4, data: thin },
		{ x: 0, y: 0, width: 1, height: 1 },
		[1, 0, 0.5, 0, 1, 0],
		true,
	);
	expect([...half]).toEqual([200, 40, 10, 128]);
});
