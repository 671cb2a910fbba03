import { describe, expect, test } from '@jest/globals';
import { converter, formatHex } from 'culori';
import fc from 'fast-check';
import {
	colorsOfPicture,
	distance,
	hexOfOklch,
	hexOfRgb,
	inSrgb,
	linearOfSrgb,
	oklchOfHex,
	rgbOfHex,
	srgbOfLinear,
} from '../src/color/index.ts';

const hex = fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255)).map(hexOfRgb);
const oklch = converter('oklch');
const oklab = converter('oklab');

test('hex and channels go both ways', () => {
	fc.assert(fc.property(hex, (color) => hexOfRgb(rgbOfHex(color)) === color));
	expect(hexOfRgb([300, -5, 127.6])).toBe('#ff0080');
	for (const bad of ['red', '#12345', '#1234567', '#12345g']) expect(() => rgbOfHex(bad)).toThrow(/is not a colour/);
});

test('OKLCH agrees with an independent library', () => {
	fc.assert(
		fc.property(hex, (color) => {
			const [ours, theirs] = [oklchOfHex(color), oklch(color)];
			if (!theirs) return false;
			const near = Math.abs(ours.l - theirs.l) < 1e-4 && Math.abs(ours.c - theirs.c) < 1e-4;
			const turn = Math.abs(((((ours.h - (theirs.h ?? 0) + 540) % 360) + 360) % 360) - 180);
			return near && (theirs.c < 0.002 || turn < 0.5);
		}),
	);
});

test('every sRGB colour survives OKLCH and back', () => {
	fc.assert(fc.property(hex, (color) => hexOfOklch(oklchOfHex(color)) === color));
});

test('a colour outside sRGB loses chroma but keeps lightness and hue', () => {
	fc.assert(
		fc.property(
			// Darker, a step of eight bits is more than what is allowed here.
			fc.double({ min: 0.16, max: 0.95, noNaN: true }),
			fc.double({ min: 0, max: 359, noNaN: true }),
			(l, h) => {
				const wanted = { l, c: 0.4, h };
				const got = oklchOfHex(hexOfOklch(wanted));
				expect(inSrgb(wanted)).toBe(false);
				return (
					Math.abs(got.l - l) < 0.012 && (got.c < 0.03 || Math.abs(((((got.h - h + 540) % 360) + 360) % 360) - 180) < 6)
				);
			},
		),
	);
});

test('the sRGB transfer goes both ways', () => {
	for (let v = 0; v <= 1; v += 0.01) expect(srgbOfLinear(linearOfSrgb(v))).toBeCloseTo(v, 6);
});

test('distance is that of OKLab, times 100', () => {
	fc.assert(
		fc.property(hex, hex, (a, b) => {
			const [x, y] = [oklab(a), oklab(b)];
			if (!x || !y) return false;
			return Math.abs(distance(a, b) - 100 * Math.hypot(x.l - y.l, x.a - y.a, x.b - y.b)) < 0.05;
		}),
	);
	expect(distance('#123456', formatHex('#123456') ?? '')).toBe(0);
});

describe('colours that stand for a picture', () => {
	const flat = (colors: readonly string[], shares: readonly number[]): Uint8Array => {
		const out: number[] = [];
		colors.forEach((color, i) => {
			for (let n = 0; n < (shares[i] as number); n++) out.push(...rgbOfHex(color), 255);
		});
		return Uint8Array.from(out);
	};
	const hexes = fc.uniqueArray(
		fc.integer({ min: 0, max: 0xffffff }).map((n) => `#${n.toString(16).padStart(6, '0')}`),
		// Apart by more than a cell of the cube, as colours are that one can tell apart.
		{ minLength: 1, maxLength: 12, comparator: (a, b) => distance(a, b) < 12 },
	);

	test('are its own where it has no more than are asked for, however little there is of each', () => {
		fc.assert(
			fc.property(
				hexes,
				fc.array(fc.integer({ min: 1, max: 400 }), { minLength: 12, maxLength: 12 }),
				(colors, shares) => {
					const found = colorsOfPicture(flat(colors, shares), 12);
					return [...found].sort().join() === [...colors].sort().join();
				},
			),
			{ numRuns: 150 },
		);
	});

	test('stand from dark to light, tell more of the picture the more there are, and leave out what shows through', () => {
		const random = (() => {
			let state = 7;
			return () => (state = (state * 16807) % 2147483647) / 2147483647;
		})();
		const data = Uint8Array.from({ length: 4 * 3000 }, (_, i) =>
			i % 4 === 3 ? (i > 8000 ? 0 : 255) : 255 * random() ** 2,
		);
		const off = (count: number): number => {
			const found = colorsOfPicture(data, count);
			const lights = found.map((hex) => oklchOfHex(hex).l);
			expect([...lights].sort((a, b) => a - b)).toEqual(lights);
			let sum = 0;
			for (let i = 0; i < 8000; i += 4 * 20) {
				const own = hexOfRgb([...data.subarray(i, i + 3)]);
				sum += Math.min(...found.map((hex) => distance(hex, own)));
			}
			return sum;
		};
		const errors = [1, 4, 8, 16, 32].map(off);
		for (let i = 1; i < errors.length; i++) expect(errors[i] as number).toBeLessThan(errors[i - 1] as number);
		expect(colorsOfPicture(new Uint8Array(400), 8)).toEqual([]);
		expect(colorsOfPicture(data, 8)).toEqual(colorsOfPicture(data, 8));
	});
});
