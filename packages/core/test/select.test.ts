import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { contourOf, pathCoverage } from '../src/raster/index.ts';
import {
	changedSelection,
	clingFrom,
	edgeStrength,
	joined,
	outlinePath,
	repeatedPath,
	shapePath,
	similarTo,
	toneRange,
} from '../src/select/index.ts';
import type { Picture } from '../src/surface/index.ts';
import { seeded } from './oracle/surfaces.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const blotches = (seed: number, width: number, height: number): Picture => {
	const random = seeded(seed);
	const palette = Array.from({ length: 4 }, () => [
		random() * 255,
		random() * 255,
		random() * 255,
		random() < 0.3 ? 0 : 255,
	]);
	const data = new Uint8Array(width * height * 4);
	for (let i = 0; i < width * height; i++)
		data.set(
			(palette[Math.floor(random() * random() * 4)] as number[]).map((v) => Math.floor(v)),
			i * 4,
		);
	return { width, height, data };
};

test('a flood finds what a plain walk from neighbour to neighbour finds; without "together" all that is like', () => {
	fc.assert(
		fc.property(
			fc.nat(9999),
			fc.integer({ min: 1, max: 40 }),
			fc.integer({ min: 1, max: 40 }),
			fc.nat(255),
			(seed, w, h, reach) => {
				const picture = blotches(seed, w, h);
				const { data } = picture;
				const [x, y] = [seed % w, (seed * 7) % h];
				const start = y * w + x;
				const like = (i: number): boolean =>
					[0, 1, 2, 3].every((k) => Math.abs((data[i * 4 + k] as number) - (data[start * 4 + k] as number)) <= reach) ||
					(data[i * 4 + 3] === 0 && data[start * 4 + 3] === 0);
				const plain = new Uint8Array(w * h);
				const todo = [start];
				while (todo.length) {
					const i = todo.pop() as number;
					if (plain[i] || !like(i)) continue;
					plain[i] = 255;
					if (i % w) todo.push(i - 1);
					if ((i + 1) % w) todo.push(i + 1);
					if (i >= w) todo.push(i - w);
					if (i + w < w * h) todo.push(i + w);
				}
				const all = Uint8Array.from({ length: w * h }, (_, i) => (like(i) ? 255 : 0));
				return (
					Buffer.compare(similarTo(picture, x, y, reach, true), plain) === 0 &&
					Buffer.compare(similarTo(picture, x, y, reach, false), all) === 0
				);
			},
		),
	);
});

test('a tone range is whole within, fades beside, and leaves clear texels out', () => {
	const data = new Uint8Array(256 * 4);
	for (let v = 0; v < 256; v++) data.set([v, v, v, v === 100 ? 0 : 255], v * 4);
	const got = toneRange({ width: 256, height: 1, data }, 0.25, 0.5, 0.1);
	for (let v = 0; v < 256; v++) {
		const t = v / 255;
		const want = v === 100 ? 0 : t >= 0.25 && t <= 0.5 ? 1 : Math.max(0, 1 - Math.max(0.25 - t, t - 0.5) / 0.1);
		expect(Math.abs((got[v] as number) - 255 * want)).toBeLessThanOrEqual(1);
	}
});

test('a clinging line follows the rim of a disc within two texels', () => {
	const [w, c, r] = [160, 80, 52];
	const data = new Uint8Array(w * w * 4);
	const random = seeded(3);
	for (let i = 0; i < w * w; i++) {
		const inside = Math.hypot((i % w) + 0.5 - c, Math.floor(i / w) + 0.5 - c) < r;
		const noise = random() * 14;
		data.set(inside ? [170 + noise, 90 + noise, 60, 255] : [90 + noise, 110 + noise, 120, 255], i * 4);
	}
	const strength = edgeStrength({ width: w, height: w, data });
	let worst = 0;
	for (let k = 0; k < 6; k++) {
		const at = (n: number): [number, number] => [
			c + r * Math.cos((n * Math.PI) / 3),
			c + r * Math.sin((n * Math.PI) / 3),
		];
		const places = clingFrom(strength, w, w, ...at(k)).to(...at(k + 1));
		for (let i = 0; i < places.length; i += 2)
			worst = Math.max(worst, Math.abs(Math.hypot((places[i] as number) - c, (places[i + 1] as number) - c) - r));
		expect(places.slice(0, 2).map(Math.floor)).toEqual(at(k).map((v) => Math.floor(v)));
	}
	expect(worst).toBeLessThan(2);
});

test('the outline encloses exactly the texels that are in, holes taken out', () => {
	fc.assert(
		fc.property(fc.nat(9999), fc.integer({ min: 1, max: 24 }), fc.integer({ min: 1, max: 24 }), (seed, w, h) => {
			const random = seeded(seed);
			const tone = Uint8Array.from({ length: w * h }, () => (random() < 0.5 ? 200 : 100));
			let area = 0;
			for (const line of contourOf(tone, w, h))
				for (let i = 0; i < line.length; i += 2) {
					const j = (i + 2) % line.length;
					area += (line[i] as number) * (line[j + 1] as number) - (line[j] as number) * (line[i + 1] as number);
				}
			return area / 2 === tone.filter((v) => v >= 128).length;
		}),
	);
});

const box = { x: 0, y: 0, width: 64, height: 64 };
const area = (tone: Uint8Array): number => tone.reduce((sum, v) => sum + v / 255, 0);

test('shapes have the areas of their closed forms, whole, outlined and repeated', () => {
	const disc = { kind: 'ellipse', x: 12, y: 8, width: 40, height: 30 } as const;
	expect(area(pathCoverage(shapePath(disc), box))).toBeCloseTo(Math.PI * 20 * 15, -0.5);
	expect(area(pathCoverage(outlinePath(disc, 3), box))).toBeCloseTo(Math.PI * (20 * 15 - 17 * 12), -0.5);
	const round = { kind: 'rectangle', x: 50, y: 40, width: -40, height: -30, radius: 8 } as const;
	expect(area(pathCoverage(shapePath(round), box))).toBeCloseTo(40 * 30 - (4 - Math.PI) * 64, -0.5);
	const line = { kind: 'line', from: [10, 10], to: [40, 50], thick: 4 } as const;
	expect(area(pathCoverage(shapePath(line), box))).toBeCloseTo(50 * 4 + Math.PI * 4, -0.5);
	const small = shapePath({ kind: 'rectangle', x: 10, y: 20, width: 5, height: 5, radius: 0 });
	expect(area(pathCoverage(repeatedPath(small, { way: 'row', count: 6, step: [8, 4] }), box))).toBeCloseTo(150, 1);
	expect(area(pathCoverage(repeatedPath(small, { way: 'ring', count: 5, around: [32, 32] }), box))).toBeCloseTo(125, 0);
	const triangle = { kind: 'polygon', points: [10, 10, 50, 10, 10, 50] } as const;
	expect(area(pathCoverage(outlinePath(triangle, 2), box))).toBeGreaterThan(2 * (80 + 40 * Math.SQRT2) - 8);
});

test('selections join as sets do, and grow, shrink, soften and become borders by texels', () => {
	const a = pathCoverage(shapePath({ kind: 'rectangle', x: 8, y: 8, width: 30, height: 30, radius: 0 }), box);
	const b = pathCoverage(shapePath({ kind: 'rectangle', x: 20, y: 20, width: 30, height: 30, radius: 0 }), box);
	expect(area(joined(a, b, 'add'))).toBe(2 * 900 - 324);
	expect(area(joined(a, b, 'take'))).toBe(900 - 324);
	expect(area(joined(a, b, 'meet'))).toBe(324);
	expect(area(joined(a, b, 'replace'))).toBe(900);
	const change = (what: Parameters<typeof changedSelection>[4]): Uint8Array =>
		changedSelection(kernels, a, 64, 64, what);
	expect(area(change({ to: 'inverse' }))).toBe(64 * 64 - 900);
	expect(area(change({ to: 'all' }))).toBe(64 * 64);
	expect(area(change({ to: 'none' }))).toBe(0);
	// Grown by 5: sides pushed out, corners round.
	expect(Math.abs(area(change({ to: 'grown', by: 5 })) - (900 + 4 * 150 + Math.PI * 25))).toBeLessThan(14);
	expect(Math.abs(area(change({ to: 'grown', by: -5 })) - 400)).toBeLessThan(8);
	expect(Math.abs(area(change({ to: 'border', by: 4 })) - (120 * 4 + 4 * (Math.PI - 4)))).toBeLessThan(14);
	const soft = change({ to: 'soft', by: 3 });
	expect(Math.abs(area(soft) - 900)).toBeLessThan(3);
	expect(Math.abs((soft[8 * 64 + 22] as number) - 145)).toBeLessThan(20);
	// What is soft stays soft when it grows: its ramp is moved outwards; a band on it is as wide as on a hard one.
	const moved = changedSelection(kernels, soft, 64, 64, { to: 'grown', by: 4 });
	for (let x = 0; x < 12; x++) expect(moved[22 * 64 + x]).toBe(soft[22 * 64 + x + 4]);
	const band = changedSelection(kernels, soft, 64, 64, { to: 'border', by: 4 });
	expect([...band.subarray(22 * 64, 22 * 64 + 20)].filter((v) => v > 127).length).toBe(4);
});
