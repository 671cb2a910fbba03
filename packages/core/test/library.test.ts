/** Palettes, packed pictures, kept desks and colours in and out: round trips, and answers to bad input. */
import { describe, expect, test } from '@jest/globals';
import { converter } from 'culori';
import fc from 'fast-check';
import { hexOfHsv, hsvOfHex, oklchOfHex, type Palette, ramp, toneChart } from '../src/color/index.ts';
import { currentDesk, desksProblem, emptyDesk, presetProblem } from '../src/document/index.ts';
import {
	hexList,
	PackedPictureError,
	packPicture,
	paletteOfHexList,
	paletteOfPicture,
	paletteOfTokens,
	palettePicture,
	paletteTokens,
	unpackPicture,
} from '../src/format/index.ts';
import { defaultTip, paintPictureOf, shippedTips, tipOfShipped, tipToneOf } from '../src/stroke/index.ts';

const hex = fc.integer({ min: 0, max: 0xffffff }).map((n) => `#${n.toString(16).padStart(6, '0')}`);
const palette: fc.Arbitrary<Palette> = fc.record({
	name: fc.constantFrom('Apiary tin', 'Süß & sauer', 'a'),
	colors: fc.uniqueArray(hex, { minLength: 1, maxLength: 40 }),
});
const ramps = fc.array(
	fc.record({ name: fc.constantFrom('Straw', 'Süß'), colors: fc.array(hex, { minLength: 1, maxLength: 9 }) }),
	{ minLength: 1, maxLength: 4 },
);

describe('palettes', () => {
	test('come back from design tokens, hex lists and picture strips as they went out', () => {
		fc.assert(
			fc.property(palette, ramps, (given, lines) => {
				expect(paletteOfTokens(paletteTokens(given), 'a.json')).toEqual({ ok: true, palette: given });
				const ramped = { ...given, ramps: lines };
				expect(paletteOfTokens(paletteTokens(ramped), 'a.json')).toEqual({ ok: true, palette: ramped });
				// Ramps that are none are left out, the colours stay.
				const spoiled = paletteTokens(ramped).replace(/"name": "(Straw|Süß)"/g, '"name": 7');
				expect(paletteOfTokens(spoiled, 'a.json')).toEqual({ ok: true, palette: given });
				const list = paletteOfHexList(hexList(given), 'List.txt');
				expect(list).toEqual({ ok: true, palette: { name: 'List', colors: given.colors } });
				const strip = paletteOfPicture(palettePicture(given), 'Strip.png');
				expect(strip).toEqual({ ok: true, palette: { name: 'Strip', colors: given.colors } });
			}),
			{ numRuns: 40 },
		);
	});
	test('are read from tokens of other programs: nested groups, inherited types, hex texts and components', () => {
		const text = JSON.stringify({
			brand: {
				$type: 'color',
				warm: { honey: { $value: '#E8B345' }, straw: { $value: { colorSpace: 'srgb', components: [1, 0.5, 0] } } },
				gap: { $type: 'dimension', $value: '4px' },
			},
		});
		expect(paletteOfTokens(text, 'b.json')).toEqual({
			ok: true,
			palette: { name: 'brand', colors: ['#e8b345', '#ff8000'] },
		});
	});
	test('of files that hold none are answered with the file’s name', () => {
		for (const answer of [
			paletteOfTokens('not json', 'bad.json'),
			paletteOfTokens('{"a":{"$value":12}}', 'bad.json'),
			paletteOfHexList('no colours here', 'bad.json'),
			paletteOfHexList(
				Array.from({ length: 600 }, (_, i) => `#${i.toString(16).padStart(6, '0')}`).join('\n'),
				'bad.json',
			),
		]) {
			expect(answer.ok).toBe(false);
			if (!answer.ok) expect(answer.text).toContain('bad.json');
		}
	});
});

describe('packed pictures', () => {
	test('come back bit for bit', () => {
		const picture = fc
			.tuple(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 40 }))
			.chain(([width, height]) =>
				fc
					.uint8Array({ minLength: width * height * 4, maxLength: width * height * 4 })
					.map((data) => ({ width, height, data })),
			);
		fc.assert(
			fc.property(picture, (given) => expect(unpackPicture(packPicture(given))).toEqual(given)),
			{ numRuns: 30 },
		);
	});
	test('that are cut, oversized, or hold more than they say are refused', () => {
		const good = packPicture({ width: 8, height: 8, data: new Uint8Array(256).fill(7) });
		const lying = good.slice();
		new DataView(lying.buffer).setUint32(4, 4, true);
		const huge = good.slice();
		new DataView(huge.buffer).setUint32(4, 100_000, true);
		for (const bad of [
			good.subarray(0, 15),
			new Uint8Array(64),
			lying,
			huge,
			good.map((v, i) => (i === 20 ? v ^ 255 : v)),
		])
			expect(() => unpackPicture(bad)).toThrow(PackedPictureError);
	});
});

describe('desks', () => {
	test('kept by the first version open with their camera, colours and pen dials', () => {
		const { size, strength, edge, spacing, buildUp } = defaultTip;
		const first = {
			sheet: 'can',
			layers: { can: 'a' },
			camera: { ...emptyDesk.camera, yaw: 77 },
			places: {},
			front: '#123456',
			back: '#654321',
			recent: ['#123456'],
			tip: { size, strength, edge, spacing, buildUp, pressureSize: 0.25, pressureStrength: 0.75 },
		};
		expect(desksProblem(first)).not.toBeNull();
		const now = currentDesk(first) as typeof emptyDesk;
		expect(desksProblem(now)).toBeNull();
		expect([now.camera.yaw, now.front, now.sheet]).toEqual([77, '#123456', 'can']);
		expect(now.tip.rules.map(({ of, amount }) => [of, amount])).toEqual([
			['size', 0.25],
			['strength', 0.75],
		]);
	});
	test('as they are now, and every shipped tip, are well formed; others are not', () => {
		expect(desksProblem(emptyDesk)).toBeNull();
		for (const { name } of shippedTips) expect(presetProblem(tipOfShipped(name, 30))).toBeNull();
		expect(presetProblem({ ...defaultTip, size: 5000 })).toContain('size');
		expect(presetProblem({ ...defaultTip, shape: '../x' })).not.toBeNull();
	});
});

describe('colours', () => {
	test('in HSV agree with an independent converter, and come back', () => {
		const hsv = converter('hsv');
		fc.assert(
			fc.property(hex, (color) => {
				const got = hsvOfHex(color);
				const want = hsv(color);
				expect(got.s).toBeCloseTo(want?.s ?? 0, 6);
				expect(got.v).toBeCloseTo(want?.v ?? 0, 6);
				if (got.s > 0) expect(got.h).toBeCloseTo(want?.h ?? 0, 4);
				expect(hexOfHsv(got)).toBe(color);
			}),
		);
	});
	test('of a ramp begin and end at its pots and rise evenly', () => {
		const list = ramp('#2b2d30', '#f3e9d2', 7);
		expect([list[0], list.at(-1), list.length]).toEqual(['#2b2d30', '#f3e9d2', 7]);
		const steps = list.slice(1).map((color, i) => oklchOfHex(color).l - oklchOfHex(list[i] as string).l);
		expect(Math.max(...steps) - Math.min(...steps)).toBeLessThan(0.006);
	});
	test('of the tone chart are as light as they say, in grey and in the colour’s hue', () => {
		for (const { l, grey, tinted } of toneChart('#b85a33', 11)) {
			expect(Math.abs(oklchOfHex(grey).l - l)).toBeLessThan(0.006);
			expect(Math.abs(oklchOfHex(tinted).l - l)).toBeLessThan(0.012);
		}
	});
});

describe('own pictures', () => {
	const drawn = (ink: number, ground: number, alpha: number) => ({
		width: 40,
		height: 20,
		data: Uint8Array.from({ length: 40 * 20 * 4 }, (_, i) => {
			const [x, y] = [Math.floor(i / 4) % 40, Math.floor(i / 160)];
			const inside = x > 9 && x < 30 && y > 4 && y < 15;
			return i % 4 === 3 ? (inside ? 255 : alpha) : inside ? ink : ground;
		}),
	});
	test('as tips paint what stands out from their border, or their alpha, within a square', () => {
		for (const picture of [drawn(0, 255, 255), drawn(255, 0, 255), drawn(90, 90, 0)]) {
			const tone = tipToneOf(picture, 40);
			expect(tone[20 * 40 + 20]).toBeGreaterThan(200);
			expect(tone[2 * 40 + 20]).toBe(0);
			expect(tone[20 * 40 + 2]).toBeLessThan(60);
		}
	});
	test('as stencils let paint through where they are light, or by their alpha', () => {
		expect(paintPictureOf(drawn(0, 255, 255)).tone[0]).toBe(255);
		expect(paintPictureOf(drawn(0, 255, 255)).tone[10 * 40 + 20]).toBe(0);
		expect(paintPictureOf(drawn(0, 255, 0)).tone[10 * 40 + 20]).toBe(255);
	});
});
