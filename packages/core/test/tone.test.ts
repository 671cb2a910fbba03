/** Changes of tones: each against its closed form, and the kernel that carries tables out against its plain twin. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { hexOfRgb, oklabOfSrgb, oklchOfHex, rgbOfHex } from '../src/color/index.ts';
import { type PointTone, type ToneMap, toneMap } from '../src/tone/index.ts';
import { cubeMade, NODES, nodeOf } from './oracle/cube.ts';
import { seeded } from './oracle/surfaces.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const table = (op: PointTone): Uint8Array => {
	const map = toneMap(op);
	if (map.kind === 'cube') throw new Error('a cube');
	return map.table;
};
/** A channel's entry for a value. */
const at = (list: Uint8Array, value: number, channel = 0): number => list[value * 3 + channel] as number;
/** A colour through a cube, linearly between its nodes. */
function through(map: ToneMap, hex: string): [number, number, number] {
	if (map.kind !== 'cube') throw new Error('a table');
	const cube = cubeMade(kernels, map.change);
	const place = rgbOfHex(hex).map((v) => (v / 255) * 32);
	const low = place.map((v) => Math.min(31, Math.floor(v))) as [number, number, number];
	const out: [number, number, number] = [0, 0, 0];
	for (let corner = 0; corner < 8; corner++) {
		const bit = [corner & 1, (corner >> 1) & 1, corner >> 2] as [number, number, number];
		const w = bit.reduce((all, on, i) => {
			const share = (place[i] as number) - (low[i] as number);
			return all * (on ? share : 1 - share);
		}, 1);
		const node = ((low[2] + bit[2]) * 33 + low[1] + bit[1]) * 33 + low[0] + bit[0];
		for (let k = 0; k < 3; k++) out[k] = (out[k] as number) + w * (cube[node * 4 + k] as number);
	}
	return out;
}

describe('tables', () => {
	test('of changes at rest leave every value as it is', () => {
		const rest: PointTone[] = [
			{ op: 'levels', black: 0, white: 1, gamma: 1, outBlack: 0, outWhite: 1 },
			{ op: 'curves', all: [0, 0.5, 1], red: [0, 1], green: [0, 0.25, 0.5, 0.75, 1], blue: [0, 1] },
			{ op: 'contrast', brightness: 0, contrast: 0 },
		];
		for (const op of rest) {
			const list = table(op);
			for (let v = 0; v < 256; v++) for (let k = 0; k < 3; k++) expect(at(list, v, k)).toBe(v);
		}
	});
	test('of levels send black to the darkest, white to the lightest, and the middle by gamma', () => {
		fc.assert(
			fc.property(
				fc.integer({ min: 0, max: 100 }),
				fc.integer({ min: 110, max: 255 }),
				fc.double({ min: 0.3, max: 3, noNaN: true }),
				(black, white, gamma) => {
					const list = table({
						op: 'levels',
						black: black / 255,
						white: white / 255,
						gamma,
						outBlack: 0.1,
						outWhite: 0.9,
					});
					const middle = Math.round((black + white) / 2);
					const share = (middle - black) / (white - black);
					return (
						at(list, black) === Math.round(25.5) &&
						at(list, white) === Math.round(229.5) &&
						Math.abs(at(list, middle) - 255 * (0.1 + 0.8 * share ** (1 / gamma))) <= 0.51 &&
						list.every((v, i) => i < 3 || v >= (list[i - 3] as number))
					);
				},
			),
		);
	});
	test('of curves take each channel through its own after all', () => {
		const list = table({ op: 'curves', all: [1, 0], red: [0, 1], green: [1, 0], blue: [0.5, 0.5] });
		for (const v of [0, 60, 128, 255])
			expect([at(list, v, 0), at(list, v, 1), at(list, v, 2)]).toEqual([255 - v, v, 128]);
	});
	test('of contrast turn about the middle; none at all is grey', () => {
		const more = table({ op: 'contrast', brightness: 0, contrast: 0.5 });
		expect([at(more, 0), at(more, 255), Math.abs(at(more, 128) - 128) <= 2]).toEqual([0, 255, true]);
		expect(at(more, 160)).toBeGreaterThan(160);
		expect(at(more, 90)).toBeLessThan(90);
		expect(new Set(table({ op: 'contrast', brightness: 0, contrast: -1 })).size).toBe(1);
		expect(at(table({ op: 'contrast', brightness: 0.5, contrast: 0 }), 100)).toBeGreaterThan(150);
	});
	test('of posterizing hold so many values, the ends among them', () => {
		for (const steps of [2, 3, 7, 64]) {
			const values = new Set(table({ op: 'posterize', steps }));
			expect([values.size, values.has(0), values.has(255)]).toEqual([steps, true, true]);
		}
	});
	test('of a gradient begin and end at its colours and go evenly in between', () => {
		const colors = ['#2b1d2a', '#b0603f', '#f3e9d2'];
		const list = table({ op: 'gradient', colors });
		const hex = (v: number): string => hexOfRgb([at(list, v, 0), at(list, v, 1), at(list, v, 2)]);
		expect([hex(0), hex(255)]).toEqual([colors[0], colors[2]]);
		const light = Array.from({ length: 256 }, (_, v) => oklchOfHex(hex(v)).l);
		light.forEach((l, v) => v && expect(l).toBeGreaterThanOrEqual((light[v - 1] as number) - 0.004));
	});
});

describe('cubes', () => {
	const hexes = ['#b85a33', '#64899d', '#6f8655', '#8a928f', '#e2cf9b'];
	const lab = (rgb: readonly number[]): readonly number[] =>
		oklabOfSrgb((rgb[0] as number) / 255, (rgb[1] as number) / 255, (rgb[2] as number) / 255);
	test('of changes at rest leave colours as they are, but for what lies between nodes', () => {
		const rest: PointTone[] = [
			{ op: 'oklch', lightness: 0, chroma: 0, hue: 0 },
			{ op: 'balance', warmth: [0, 0, 0], redness: [0, 0, 0] },
			{ op: 'desaturate', amount: 0 },
			{ op: 'pull', color: '#b85a33', amount: 0 },
		];
		for (const op of rest)
			for (const hex of hexes)
				through(toneMap(op), hex).forEach((v, k) =>
					expect(Math.abs(v - (rgbOfHex(hex)[k] as number))).toBeLessThan(0.5),
				);
	});
	test('of turning the hue keep lightness and chroma', () => {
		for (const hex of ['#b85a33', '#64899d', '#6f8655']) {
			const [before, after] = [
				lab(rgbOfHex(hex)),
				lab(through(toneMap({ op: 'oklch', lightness: 0, chroma: 0, hue: 60 }), hex)),
			];
			expect(Math.abs((after[0] as number) - (before[0] as number))).toBeLessThan(0.012);
			const turn =
				Math.atan2(after[2] as number, after[1] as number) - Math.atan2(before[2] as number, before[1] as number);
			expect(Math.abs((((turn * 180) / Math.PI + 720) % 360) - 60)).toBeLessThan(6);
		}
	});
	test('of taking colour away leave greys of the same lightness', () => {
		for (const hex of hexes) {
			const after = lab(through(toneMap({ op: 'desaturate', amount: 1 }), hex));
			expect(Math.hypot(after[1] as number, after[2] as number)).toBeLessThan(0.006);
			expect(Math.abs((after[0] as number) - (lab(rgbOfHex(hex))[0] as number))).toBeLessThan(0.012);
		}
	});
	test('of warmth warm, of redness redden, only the tones they are for', () => {
		const [dark, light] = ['#2b2d30', '#dde0da'];
		const warm = toneMap({ op: 'balance', warmth: [1, 0, 0], redness: [0, 0, 0] });
		const b = (hex: string): number => (lab(through(warm, hex))[2] as number) - (lab(rgbOfHex(hex))[2] as number);
		expect(b(dark)).toBeGreaterThan(0.02);
		expect(Math.abs(b(light))).toBeLessThan(0.006);
		const red = toneMap({ op: 'balance', warmth: [0, 0, 0], redness: [0, 0, -1] });
		expect((lab(through(red, light))[1] as number) - (lab(rgbOfHex(light))[1] as number)).toBeLessThan(-0.02);
	});
	test('of a pull bring every colour nearer to the one they pull to', () => {
		const to = lab(rgbOfHex('#b98d55'));
		for (const hex of hexes) {
			const far = (v: readonly number[]): number => Math.hypot(...v.map((each, k) => each - (to[k] as number)));
			const map = toneMap({ op: 'pull', color: '#b98d55', amount: 0.4 });
			expect(far(lab(through(map, hex)))).toBeLessThan(far(lab(rgbOfHex(hex))) * 0.9);
		}
	});
});

test('a cube is the same as in plain script, also where colours leave sRGB', () => {
	const signed = fc.double({ min: -1, max: 1, noNaN: true });
	const op = fc.oneof(
		fc.record({
			op: fc.constant('oklch' as const),
			lightness: signed,
			chroma: signed,
			hue: signed.map((v) => 180 * v),
		}),
		fc.record({
			op: fc.constant('balance' as const),
			warmth: fc.tuple(signed, signed, signed),
			redness: fc.tuple(signed, signed, signed),
		}),
	);
	let [left, off, all] = [0, 0, 0];
	fc.assert(
		fc.property(op, fc.integer({ min: 0, max: 60 }), (tone, from) => {
			const map = toneMap(tone);
			if (map.kind !== 'cube') throw new Error('a table');
			const cube = cubeMade(kernels, map.change);
			for (let i = from; i < NODES ** 3; i += 61) {
				const want = nodeOf(map.change, i % NODES, Math.floor(i / NODES) % NODES, Math.floor(i / NODES ** 2));
				if (want.some((v) => v === 0 || v === 255)) left++;
				want.forEach((v, k) => {
					const away = Math.abs((cube[i * 4 + k] as number) - v);
					// A halving of the chroma may hang on the last digit of a float: a 128th of it is up to 3 steps.
					expect(away).toBeLessThan(4);
					if (away > 0.01) off++;
					all++;
				});
			}
		}),
		{ numRuns: 20 },
	);
	expect(left).toBeGreaterThan(500);
	expect(off / all).toBeLessThan(0.002);
});

test('a table is carried out by channel or by tone, alpha untouched', () => {
	const random = seeded(4);
	const src = Uint8Array.from({ length: 4 * 500 }, () => random() * 256);
	const list = Uint8Array.from({ length: 768 }, () => random() * 256);
	const [from, map, out] = [src, list, src].map((bytes) => {
		const place = kernels.heap.alloc(bytes.length);
		kernels.heap.u8.set(bytes, place);
		return place;
	}) as [number, number, number];
	for (const byTone of [0, 1] as const) {
		kernels.run.mapTable(from, map, out, 500, byTone);
		const got = kernels.heap.u8.slice(out, out + src.length);
		let wrong = 0;
		for (let i = 0; i < 500; i++) {
			const [r, g, b, a] = [...src.subarray(i * 4, i * 4 + 4)] as [number, number, number, number];
			const tone = 0.3 * r + 0.59 * g + 0.11 * b;
			const [want, near] = byTone
				? [Math.floor(tone), Math.ceil(tone)].map((v) => [0, 1, 2].map((k) => at(list, v, k)))
				: [[at(list, r, 0), at(list, g, 1), at(list, b, 2)], []];
			const rgb = [...got.subarray(i * 4, i * 4 + 3)];
			if (String(rgb) !== String(want) && String(rgb) !== String(near)) wrong++;
			if (got[i * 4 + 3] !== a) wrong++;
		}
		expect(wrong).toBe(0);
	}
});
