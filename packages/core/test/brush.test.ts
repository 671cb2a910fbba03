import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { curveAt } from '../src/color/index.ts';
import {
	type Coverage,
	clearCoverage,
	coverageTile,
	createCoverage,
	type Dab,
	mirroredSheet,
	plainDab,
	sheetTarget,
	takeTouched,
	tipPicture,
} from '../src/projection/index.ts';
import {
	createDabs,
	createPath,
	defaultTip,
	noJitter,
	type Point,
	type Sample,
	shippedTips,
	shippedTipTone,
	TIP_SIDE,
	type Tip,
	tipOfShipped,
} from '../src/stroke/index.ts';
import { seeded } from './oracle/surfaces.ts';

let kernels: Kernels;
let coverage: Coverage;
const SIDE = 192;
beforeAll(async () => {
	kernels = await loadKernels();
	coverage = createCoverage(kernels, SIDE, SIDE);
});

const at = (x: number, y: number): number =>
	kernels.heap.u16[
		(coverageTile(coverage, (y >> 6) * coverage.cols + (x >> 6)) >> 1) + (y & 63) * 64 + (x & 63)
	] as number;
const set = (dab: Dab, target = sheetTarget(kernels, SIDE)): number[] => {
	target.dab(coverage, dab, false);
	const { u16 } = kernels.heap;
	const out = Array.from({ length: SIDE * SIDE }, (_, i) => {
		const [x, y] = [i % SIDE, (i / SIDE) | 0];
		return u16[
			((coverage.at + ((y >> 6) * coverage.cols + (x >> 6)) * 8192) >> 1) + (y & 63) * 64 + (x & 63)
		] as number;
	});
	clearCoverage(kernels, coverage, takeTouched(kernels, coverage));
	return out;
};

describe('shipped tips', () => {
	test('are at least sixteen, each of its own name, with a tone that covers some and leaves some', () => {
		expect(shippedTips.length).toBeGreaterThanOrEqual(16);
		expect(new Set(shippedTips.map((tip) => tip.name)).size).toBe(shippedTips.length);
		for (const { name, tone } of shippedTips) {
			const picture = shippedTipTone(name);
			if (!tone) expect(picture).toBeNull();
			else if (name !== 'pixel') {
				const mean = (picture as Uint8Array).reduce((sum, v) => sum + v, 0) / (TIP_SIDE * TIP_SIDE);
				expect([name, mean > 3 && mean < 220]).toEqual([name, true]);
			}
		}
	});
	test('leave strokes that differ from each other', () => {
		const seen = new Set<string>();
		for (const { name } of shippedTips) {
			const tone = shippedTipTone(name);
			const tip = tipOfShipped(name, 30);
			const picture = tone && tipPicture(kernels, tone, TIP_SIDE, name === 'pixel');
			const line = createPath().extend([
				{ x: 40, y: 60, pressure: 0.4 },
				{ x: 90, y: 90, pressure: 0.9 },
				{ x: 150, y: 80, pressure: 0.6 },
			]);
			for (const dab of createDabs(tip, picture, 3).along(line)) sheetTarget(kernels, SIDE).dab(coverage, dab, false);
			seen.add(Array.from({ length: 400 }, (_, i) => at(30 + (i % 20) * 6, 40 + Math.floor(i / 20) * 4)).join());
			clearCoverage(kernels, coverage, takeTouched(kernels, coverage));
		}
		expect(seen.size).toBe(shippedTips.length);
	});
});

describe('a dab of a picture', () => {
	test('has the picture’s tone between its texels, turned, stretched and flipped', () => {
		const side = 32;
		const random = seeded(8);
		// Smooth within and empty at its border, so that the plain twin needs no rule for what lies outside.
		const tone = Uint8Array.from({ length: side * side }, (_, i) => {
			const [x, y] = [i % side, Math.floor(i / side)];
			return x < 2 || y < 2 || x > 29 || y > 29 ? 0 : 40 + 150 * random();
		});
		const picture = tipPicture(kernels, tone, side);
		const texel = (x: number, y: number): number =>
			x < 0 || y < 0 || x >= side || y >= side ? 0 : (tone[y * side + x] as number);
		fc.assert(
			fc.property(
				fc.record({
					x: fc.integer({ min: 200, max: 560 }).map((v) => v / 4),
					y: fc.integer({ min: 200, max: 560 }).map((v) => v / 4),
					radius: fc.integer({ min: 17, max: 40 }),
					angle: fc.double({ min: -3, max: 3, noNaN: true }),
					roundness: fc.double({ min: 0.4, max: 1, noNaN: true }),
					flip: fc.boolean(),
				}),
				(shape) => {
					const dab = { ...plainDab(shape.x, shape.y, shape.radius, 1, 1), ...shape, picture };
					const got = set(dab);
					let worst = 0;
					for (let i = 0; i < got.length; i++) {
						const [dx, dy] = [(i % SIDE) + 0.5 - dab.x, Math.floor(i / SIDE) + 0.5 - dab.y];
						const along = dx * Math.cos(dab.angle) + dy * Math.sin(dab.angle);
						const across = (-dx * Math.sin(dab.angle) + dy * Math.cos(dab.angle)) / dab.roundness;
						const scale = side / (2 * dab.radius);
						const u = along * scale + side / 2 - 0.5;
						const v = (dab.flip ? -across : across) * scale + side / 2 - 0.5;
						const [ix, iy] = [Math.floor(u), Math.floor(v)];
						const [s, t] = [u - ix, v - iy];
						const want =
							257 *
							((texel(ix, iy) * (1 - s) + texel(ix + 1, iy) * s) * (1 - t) +
								(texel(ix, iy + 1) * (1 - s) + texel(ix + 1, iy + 1) * s) * t);
						worst = Math.max(worst, Math.abs((got[i] as number) - want));
					}
					return worst < 40;
				},
			),
			{ numRuns: 10 },
		);
	});
	test('of the pixel tip is a square of whole texels, as wide as it is said to be', () => {
		const picture = tipPicture(kernels, new Uint8Array(64 * 64).fill(255), 64, true);
		fc.assert(
			fc.property(
				fc.integer({ min: 1, max: 9 }),
				fc.double({ min: 20, max: 150, noNaN: true }),
				fc.double({ min: 20, max: 150, noNaN: true }),
				(size, x, y) => {
					const got = set({ ...plainDab(x, y, size / 2, 1, 1), picture });
					const full = got.flatMap((v, i) => (v ? [[i % SIDE, Math.floor(i / SIDE)] as const] : []));
					const xs = full.map(([px]) => px);
					return (
						got.every((v) => v === 0 || v === 65535) &&
						full.length === size * size &&
						Math.max(...xs) - Math.min(...xs) === size - 1 &&
						Math.abs(Math.min(...xs) + size / 2 - x) <= 0.5
					);
				},
			),
			{ numRuns: 15 },
		);
	});
});

test('an oval dab is the disc seen along its own axes', () => {
	const dab = { ...plainDab(96, 96, 40, 0.5, 1), roundness: 0.5, angle: Math.PI / 6 };
	const [oval, disc] = [set(dab), set(plainDab(96, 96, 40, 0.5, 1))];
	// Along the long axis both are alike; across it the oval is where the disc is twice as far out.
	for (const far of [5, 15, 25, 33]) {
		const along = [96 + far * Math.cos(dab.angle), 96 + far * Math.sin(dab.angle)].map(Math.floor) as [number, number];
		expect(
			Math.abs((oval[along[1] * SIDE + along[0]] as number) - (disc[96 * SIDE + 96 + far] as number)),
		).toBeLessThan(3200);
		const across = [96 - (far / 2) * Math.sin(dab.angle), 96 + (far / 2) * Math.cos(dab.angle)].map(Math.floor) as [
			number,
			number,
		];
		expect(
			Math.abs((oval[across[1] * SIDE + across[0]] as number) - (disc[96 * SIDE + 96 + far] as number)),
		).toBeLessThan(6400);
	}
});

test('a mirrored sheet takes each dab’s image, flip and angle with it', () => {
	const tone = Uint8Array.from({ length: 64 * 64 }, (_, i) => ((i % 64) + Math.floor(i / 64) > 60 ? 220 : 60));
	const picture = tipPicture(kernels, tone, 64);
	const dab = { ...plainDab(60.25, 70.75, 20, 1, 1), picture, angle: 0.7, roundness: 0.7 };
	for (const along of ['x', 'y'] as const) {
		const [straight, image] = [set(dab), set(dab, mirroredSheet(sheetTarget(kernels, SIDE), { along, at: SIDE / 2 }))];
		let worst = 0;
		straight.forEach((v, i) => {
			const [x, y] = [i % SIDE, Math.floor(i / SIDE)];
			const there = along === 'x' ? y * SIDE + SIDE - 1 - x : (SIDE - 1 - y) * SIDE + x;
			worst = Math.max(worst, Math.abs(v - (image[there] as number)));
		});
		expect(Math.max(...straight)).toBeGreaterThan(50_000);
		expect(worst).toBeLessThan(60);
	}
});

describe('the pen’s curve', () => {
	test('goes through its knots, and never outside the two beside it', () => {
		const knots = fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 2, maxLength: 6 });
		fc.assert(
			fc.property(knots, fc.double({ min: 0, max: 1, noNaN: true }), (list, t) => {
				const last = list.length - 1;
				list.forEach((v, i) => expect(curveAt(list, i / last)).toBeCloseTo(v, 9));
				const i = Math.min(last - 1, Math.floor(t * last));
				const [a, b] = [list[i] as number, list[i + 1] as number];
				const v = curveAt(list, t);
				return v >= Math.min(a, b) - 1e-9 && v <= Math.max(a, b) + 1e-9;
			}),
		);
	});
	test('rules a dial by pressure, tilt or speed, by its amount', () => {
		const still: Point = { x: 50, y: 50, pressure: 1, tilt: 0, azimuth: 0, speed: 0 };
		const radius = (by: 'pressure' | 'tilt' | 'speed', point: Partial<Point>): number => {
			const tip: Tip = { ...defaultTip, size: 40, rules: [{ by, of: 'size', amount: 0.5, curve: [0, 1] }] };
			return createDabs(tip).along([{ ...still, ...point }])[0]?.radius as number;
		};
		expect(radius('pressure', { pressure: 0 })).toBeCloseTo(10);
		expect(radius('pressure', { pressure: 1 })).toBeCloseTo(20);
		expect(radius('tilt', { tilt: 0.5 })).toBeCloseTo(15);
		expect(radius('speed', { speed: 1.5 })).toBeCloseTo(15);
	});
});

describe('chance', () => {
	const line = createPath().extend([
		{ x: 0, y: 0, pressure: 1 },
		{ x: 400, y: 0, pressure: 1 },
	]);
	const jitter = {
		...noJitter,
		size: 0.6,
		angle: 1,
		scatter: 0.4,
		strength: 0.5,
		hue: 0.2,
		lightness: 0.3,
		saturation: 0.2,
	};
	const tip: Tip = { ...defaultTip, rules: [], jitter, size: 20, strength: 1 };
	test('gives the same dabs for the same seed, and others for another', () => {
		const of = (seed: number): Dab[] => createDabs(tip, null, seed, '#b85a33').along(line);
		expect(of(5)).toEqual(of(5));
		expect(of(5)).not.toEqual(of(6));
	});
	test('keeps within what its dials allow, and uses it', () => {
		const dabs = createDabs(tip, null, 9, '#b85a33').along(line);
		const far = dabs.map((dab) => Math.abs(dab.y));
		expect(Math.max(...far)).toBeLessThanOrEqual(0.4 * 20 + 1e-9);
		expect(Math.max(...far)).toBeGreaterThan(3);
		const radii = dabs.map((dab) => dab.radius);
		expect(Math.min(...radii)).toBeGreaterThanOrEqual(10 * 0.4 - 1e-9);
		expect(Math.max(...radii) - Math.min(...radii)).toBeGreaterThan(3);
		expect(new Set(dabs.map((dab) => dab.color)).size).toBeGreaterThan(dabs.length / 2);
	});
	test('leaves colours alone where none of their dials is up', () => {
		const plain = createDabs({ ...tip, jitter: { ...noJitter, size: 0.5 } }, null, 9).along(line);
		expect(plain.every((dab) => dab.color === null)).toBe(true);
	});
});

describe('steadying', () => {
	const shaky = (n: number): Sample[] =>
		Array.from({ length: n }, (_, i) => ({ x: 20 + i * 3, y: 80 + (i % 2 ? 6 : -6), pressure: 1 }));
	const wander = (rope: number): number => {
		const path = createPath(rope);
		const points = [...path.extend(shaky(50)), ...path.end()].slice(20);
		return points.reduce((sum, point, i) => sum + Math.abs(point.y - (points[i - 1]?.y ?? point.y)), 0);
	};
	test('calms a trembling line, and still ends at the pen', () => {
		expect(wander(30)).toBeLessThan(0.35 * wander(0));
		const path = createPath(30);
		const points = [...path.extend(shaky(50)), ...path.end()];
		const last = shaky(50).at(-1) as Sample;
		expect(points.at(-1)?.x).toBeCloseTo(last.x);
		expect(points.at(-1)?.y).toBeCloseTo(last.y);
	});
});

test('a tip that follows the stroke is turned the stroke’s way, and is set where the stroke went nowhere', () => {
	const tip: Tip = { ...defaultTip, rules: [], turn: 'stroke', size: 20, spacing: 0.5 };
	const path = createPath();
	const down = createDabs(tip).along(
		path.extend([
			{ x: 50, y: 50, pressure: 1 },
			{ x: 50, y: 100, pressure: 1 },
		]),
	);
	expect(down.length).toBeGreaterThan(1);
	for (const dab of down) expect(dab.angle).toBeCloseTo(Math.PI / 2);
	const dabs = createDabs(tip);
	expect(dabs.along(createPath().extend([{ x: 10, y: 10, pressure: 1 }]))).toEqual([]);
	expect(dabs.end()).toHaveLength(1);
});
