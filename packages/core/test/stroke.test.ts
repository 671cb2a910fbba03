import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { createCoverage, sheetTarget } from '../src/projection/index.ts';
import {
	beginStroke,
	createDabs,
	createPath,
	defaultTip,
	type Point,
	type Sample,
	type StrokeMeans,
	straightCurve,
	type Tip,
	unruled,
} from '../src/stroke/index.ts';
import { createSurface, pictureIntoSurface, pictureOfSurface, swapRecord, texelAt } from '../src/surface/index.ts';
import { seeded } from './oracle/surfaces.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const sample = fc.record({
	x: fc.double({ min: -20, max: 220, noNaN: true }),
	y: fc.double({ min: -20, max: 220, noNaN: true }),
	pressure: fc.double({ min: 0, max: 1, noNaN: true }),
});
const samples = fc.array(sample, { minLength: 1, maxLength: 14 });
const means: StrokeMeans = {
	tool: 'draw',
	tip: { ...defaultTip, size: 18 },
	picture: null,
	color: '#cc5522',
	seed: 1,
	amount: 1,
	lockAlpha: false,
	over: null,
	seams: null,
};

const draw = (list: readonly Sample[], cuts: readonly number[], how: Partial<StrokeMeans> = {}) => {
	const surface = createSurface('s', 'color', 200, 200);
	const coverage = createCoverage(kernels, 200, 200);
	const stroke = beginStroke(kernels, surface, coverage, [sheetTarget(kernels, 200)], { ...means, ...how });
	const tiles = new Set<number>();
	let from = 0;
	for (const cut of [...cuts].sort((a, b) => a - b).concat(list.length)) {
		for (const tile of stroke.extend(list.slice(from, cut))) tiles.add(tile);
		from = Math.max(from, cut);
	}
	for (const tile of stroke.end()) tiles.add(tile);
	return { surface, stroke, tiles, data: Buffer.from(pictureOfSurface(kernels, surface).data), coverage };
};

test('however its samples are cut into batches, a stroke gives the same texels', () => {
	fc.assert(
		fc.property(samples, fc.array(fc.nat(14), { maxLength: 6 }), fc.boolean(), (list, cuts, buildUp) => {
			const tip: Tip = { ...means.tip, buildUp };
			return Buffer.compare(draw(list, [], { tip }).data, draw(list, cuts, { tip }).data) === 0;
		}),
		{ numRuns: 60 },
	);
});

test('a stroke says which tiles it changed, and its record takes all of it back', () => {
	fc.assert(
		fc.property(samples, (list) => {
			const { surface, stroke, tiles, data } = draw(list, []);
			for (let tile = 0; tile < surface.kinds.length; tile++)
				if (surface.kinds[tile]) expect(tiles.has(tile)).toBe(true);
			stroke.records.forEach(swapRecord);
			expect(pictureOfSurface(kernels, surface).data.every((v) => v === 0)).toBe(true);
			stroke.records.forEach(swapRecord);
			return Buffer.compare(Buffer.from(pictureOfSurface(kernels, surface).data), data) === 0;
		}),
		{ numRuns: 30 },
	);
});

test('after a stroke the coverage is clear for the next', () => {
	const { coverage } = draw(
		[
			{ x: 20, y: 20, pressure: 1 },
			{ x: 180, y: 150, pressure: 1 },
		],
		[],
	);
	expect(kernels.heap.u8.slice(coverage.at, coverage.at + 16 * 8192).every((v) => v === 0)).toBe(true);
});

describe('a path', () => {
	test('ends at its first and last samples and strays no farther than its samples', () => {
		fc.assert(
			fc.property(samples, (list) => {
				const path = createPath();
				const points = [...path.extend(list), ...path.end()];
				const [first, last] = [points[0] as Sample, points.at(-1) as Sample];
				const wanted = list.at(-1) as Sample;
				const within = points.every(
					(p) => p.x >= Math.min(...list.map((s) => s.x)) - 1e-9 && p.x <= Math.max(...list.map((s) => s.x)) + 1e-9,
				);
				return first.x === list[0]?.x && Math.hypot(last.x - wanted.x, last.y - wanted.y) < 1e-6 && within;
			}),
		);
	});
	test('has no corner sharper than a smooth curve makes between samples', () => {
		const path = createPath();
		const points = [
			...path.extend([
				{ x: 0, y: 0, pressure: 1 },
				{ x: 60, y: 0, pressure: 1 },
				{ x: 60, y: 60, pressure: 1 },
			]),
			...path.end(),
		];
		for (let i = 1; i + 1 < points.length; i++) {
			const [a, b, c] = [points[i - 1] as Sample, points[i] as Sample, points[i + 1] as Sample];
			const turn = Math.abs(Math.atan2(c.y - b.y, c.x - b.x) - Math.atan2(b.y - a.y, b.x - a.x));
			expect(Math.min(turn, 2 * Math.PI - turn)).toBeLessThan(0.2);
		}
	});
});

const still: Point = { x: 0, y: 0, pressure: 1, tilt: 0, azimuth: 0, speed: 0 };

describe('dabs', () => {
	const line = (pressure: number): Sample[] => [
		{ x: 0, y: 0, pressure },
		{ x: 300, y: 0, pressure },
	];
	test('stand at the tip’s spacing, whatever the pressure makes of its size', () => {
		for (const pressure of [1, 0.5, 0]) {
			const tip: Tip = {
				...defaultTip,
				size: 40,
				spacing: 0.25,
				rules: [{ by: 'pressure', of: 'size', amount: 0.5, curve: straightCurve }],
			};
			const dabs = createDabs(tip).along(
				createPath()
					.extend(line(pressure))
					.concat({ ...still, x: 300, pressure }),
			);
			const size = 40 * (0.5 + 0.5 * pressure);
			expect(dabs[0]?.radius).toBeCloseTo(size / 2);
			for (let i = 1; i < dabs.length; i++)
				expect((dabs[i]?.x as number) - (dabs[i - 1]?.x as number)).toBeCloseTo(size * 0.25);
			expect(300 - (dabs.at(-1)?.x as number)).toBeLessThan(size * 0.25 + 1e-9);
		}
	});
});

describe('strength', () => {
	const cross: Sample[] = [
		{ x: 40, y: 100, pressure: 1 },
		{ x: 160, y: 100, pressure: 1 },
		{ x: 40, y: 100, pressure: 1 },
		{ x: 160, y: 100, pressure: 1 },
	];
	const tip: Tip = { ...unruled(defaultTip), size: 30, strength: 0.4, edge: 1 };
	test('caps a stroke however often it crosses itself', () => {
		const { surface } = draw(cross, [], { tip });
		expect(texelAt(kernels.heap, surface, 100, 100)).toEqual([0xcc, 0x55, 0x22, 102]);
	});
	test('adds up with build-up', () => {
		const { surface } = draw(cross, [], { tip: { ...tip, buildUp: true } });
		expect(texelAt(kernels.heap, surface, 100, 100)[3]).toBeGreaterThan(250);
	});
});

test('wiping takes paint away; keeping the shape recolours without widening', () => {
	const surface = createSurface('s', 'color', 128, 128);
	const random = seeded(4);
	const data = Uint8Array.from({ length: 128 * 128 * 4 }, (_, i) =>
		i % 4 === 3 ? (Math.floor(i / 512) < 64 ? 255 : 0) : random() * 255,
	);
	pictureIntoSurface(kernels, { width: 128, height: 128, data }, surface);
	const run = (how: Partial<StrokeMeans>): void => {
		const stroke = beginStroke(kernels, surface, createCoverage(kernels, 128, 128), [sheetTarget(kernels, 128)], {
			...means,
			tip: { ...unruled(means.tip), strength: 1, edge: 1 },
			...how,
		});
		stroke.extend([
			{ x: 64, y: 20, pressure: 1 },
			{ x: 64, y: 110, pressure: 1 },
		]);
		stroke.end();
	};
	run({ lockAlpha: true });
	expect(texelAt(kernels.heap, surface, 64, 40)).toEqual([0xcc, 0x55, 0x22, 255]);
	expect(texelAt(kernels.heap, surface, 64, 100)[3]).toBe(0);
	run({ tool: 'wipe' });
	expect(texelAt(kernels.heap, surface, 64, 40)[3]).toBe(0);
	expect(texelAt(kernels.heap, surface, 100, 40)[3]).toBe(255);
});

test('on a mask the colour’s lightness is laid, and wiping lays black', () => {
	const surface = createSurface('m', 'mask', 128, 128);
	const run = (how: Partial<StrokeMeans>): void => {
		const stroke = beginStroke(kernels, surface, createCoverage(kernels, 128, 128), [sheetTarget(kernels, 128)], {
			...means,
			tip: { ...unruled(means.tip), strength: 1, edge: 1 },
			...how,
		});
		stroke.extend([
			{ x: 30, y: 64, pressure: 1 },
			{ x: 100, y: 64, pressure: 1 },
		]);
		stroke.end();
	};
	run({ color: '#ffffff' });
	expect(texelAt(kernels.heap, surface, 64, 64)[0]).toBe(255);
	run({ tool: 'wipe' });
	expect(texelAt(kernels.heap, surface, 64, 64)[0]).toBe(0);
});
