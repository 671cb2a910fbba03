/** Checks of pixel sheets: each finds what is wrong and where, its mend mends it in one step, and a good item has no findings. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { findAll, pixelChecks } from '../src/check/index.ts';
import { apiaryPalette, rgbOfHex } from '../src/color/index.ts';
import { paintLayer } from '../src/document/index.ts';
import { type Engine, openEngine } from '../src/engine/index.ts';
import { colorMapping, heldMesh, packedOf, pixelColors } from '../src/pixel/index.ts';
import type { Picture } from '../src/surface/index.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const SIDE = 16;
const inks: Readonly<Record<string, readonly number[]>> = {
	'.': [0, 0, 0, 0],
	o: [...rgbOfHex('#523521'), 255],
	y: [...rgbOfHex('#e8b345'), 255],
	l: [...rgbOfHex('#f3e9d2'), 255],
	k: [...rgbOfHex('#2b2d30'), 255],
	d: [...rgbOfHex('#1f303f'), 255],
	h: [...rgbOfHex('#e8b345'), 90],
	x: [1, 200, 3, 255],
	z: [...rgbOfHex('#e8b347'), 255],
	t: [...rgbOfHex('#b4bbb9'), 255],
};
/** A picture of rows; what is left out is clear. */
const drawn = (...rows: readonly string[]): Picture => {
	const data = new Uint8Array(SIDE * SIDE * 4);
	rows.forEach((row, y) => [...row].forEach((ink, x) => data.set(inks[ink] as readonly number[], (y * SIDE + x) * 4)));
	return { width: SIDE, height: SIDE, data };
};
/** A framed block, `inside` within `rim`. */
const block = (rim: string, inside: string, change: readonly (readonly [number, number, string])[] = []): Picture => {
	const rows = Array.from({ length: SIDE }, (_, y) =>
		Array.from({ length: SIDE }, (_, x) => {
			const deep = Math.min(x - 2, y - 2, 13 - x, 13 - y);
			return deep < 0 ? '.' : deep === 0 ? rim : (x + y) % 5 === 0 && inside === 'y' ? 'l' : inside;
		}),
	);
	for (const [x, y, ink] of change) (rows[y] as string[])[x] = ink;
	return drawn(...rows.map((row) => row.join('')));
};
const palette = pixelColors(apiaryPalette);
const names = (picture: Picture, set: readonly string[] | null = null): string[] =>
	findAll({ picture, palette, set: set && new Set(set.map(packedOf)) }).map(({ check }) => check.name);
const open = (picture: Picture): Engine => {
	const engine = openEngine(
		kernels,
		{
			schema: 1,
			id: 'p',
			name: 'P',
			models: [],
			palette: apiaryPalette,
			sheets: [
				{
					id: 's',
					name: 'S',
					width: SIDE,
					height: SIDE,
					bleed: 0,
					base: null,
					guide: null,
					pixel: true,
					layers: [paintLayer('p', 'P')],
				},
			],
		},
		[],
		new Map(),
	);
	engine.lay('s', 'p', 'color', picture, 'In');
	return engine;
};

describe('checks', () => {
	test('a good item has no findings, nor has an empty sheet', () => {
		expect(names(block('o', 'y'))).toEqual([]);
		expect(names(drawn())).toEqual([]);
	});
	const thick = Array.from({ length: 10 }, (_, i) => [3, 3 + i, 'o'] as const);
	const cases: readonly (readonly [
		check: string,
		picture: () => Picture,
		place: readonly number[] | null,
		set?: readonly string[],
	])[] = [
		[
			'half',
			() =>
				block('o', 'y', [
					[5, 6, 'h'],
					[7, 6, 'h'],
				]),
			[5, 6, 3, 1],
		],
		['off-palette', () => block('o', 'y', [[5, 6, 'x']]), [5, 6, 1, 1]],
		['alike', () => block('o', 'y', [[5, 6, 'z']]), [5, 6, 1, 1]],
		['outline-light', () => block('l', 'o'), [2, 2, 12, 12]],
		['in-frame', () => drawn('....', '.oo', '.oyo', '.oo'), [1, 1, 3, 3]],
		['tones', () => block('d', 'k'), [2, 2, 12, 12]],
		['of-set', () => block('o', 'y', [[5, 6, 't']]), [5, 6, 1, 1], ['#523521', '#e8b345', '#f3e9d2']],
		['stray', () => block('o', 'y', [[0, 15, 'o']]), [0, 15, 1, 1]],
		['thickness', () => block('o', 'y', thick), null],
	];
	for (const [check, picture, place, set] of cases)
		test(`${check} is found with its place, and mended in one step that is undone`, () => {
			const engine = open(picture());
			const before = Buffer.from(engine.composite('s').data);
			const look = () =>
				findAll({ picture: engine.composite('s'), palette, set: set ? new Set(set.map(packedOf)) : null }).filter(
					(found) => found.check.name === check,
				);
			const [first] = look();
			expect(first?.finding.text).toMatch(/^[A-Z0-9#].*\.$/);
			if (place) {
				const at = first?.finding.place;
				expect([at?.x, at?.y, at?.width, at?.height]).toEqual(place);
			}
			const steps = engine.history.done.length;
			let turns = 0;
			for (let found = look(); found.length && turns < 10; found = look(), turns++) {
				const mend = found[0]?.finding.mend;
				expect(mend).not.toBeNull();
				if (mend) engine.edit('s', 'p', mend.edit);
			}
			expect(look()).toEqual([]);
			for (let i = engine.history.done.length; i > steps; i--) engine.undo();
			expect(Buffer.from(engine.composite('s').data)).toEqual(before);
			engine.close();
		});
	test('every check is met above, and thresholds are the artist’s to change', () => {
		expect(new Set(cases.map(([name]) => name))).toEqual(new Set(pixelChecks.map(({ name }) => name)));
		const small = drawn('', '', '......oooo', '......oyyo', '......oyyo', '......oooo');
		const checked = { picture: small, palette, set: null };
		expect(findAll(checked).some(({ check }) => check.name === 'in-frame')).toBe(true);
		expect(findAll(checked, { 'in-frame': 0.1 }).filter(({ finding }) => /fills/.test(finding.text))).toEqual([]);
	});
});

describe('the held view', () => {
	const grid = fc.array(fc.constantFrom('.', 'o', 'y'), { minLength: 64, maxLength: 64 });
	test('it is closed, has faces only where nothing touches, and as many as a plain count says', () => {
		fc.assert(
			fc.property(grid, (cells) => {
				const rows = Array.from({ length: 8 }, (_, y) => cells.slice(y * 8, y * 8 + 8).join(''));
				const { positions, indices, colors, normals } = heldMesh(drawn(...rows));
				const is = (x: number, y: number): boolean => x >= 0 && y >= 0 && x < 8 && y < 8 && cells[y * 8 + x] !== '.';
				let plain = 0;
				for (let y = 0; y < 8; y++)
					for (let x = 0; x < 8; x++)
						if (is(x, y))
							plain +=
								2 +
								[
									[1, 0],
									[-1, 0],
									[0, 1],
									[0, -1],
								].filter(([u, v]) => !is(x + (u as number), y + (v as number))).length;
				expect(indices.length / 6).toBe(plain);
				// Each edge is gone along once each way, as often by one face as by its neighbours: nothing is open.
				const edges = new Map<string, number>();
				const at = (v: number): string => positions.slice(v * 3, v * 3 + 3).join(' ');
				for (let i = 0; i < indices.length; i += 6) {
					const [a, b, c, , , d] = indices.subarray(i, i + 6);
					const ring = [a, b, c, d] as number[];
					ring.forEach((v, k) => {
						const [from, to] = [at(v), at(ring[(k + 1) % 4] as number)];
						edges.set(`${from}|${to}`, (edges.get(`${from}|${to}`) ?? 0) + 1);
						edges.set(`${to}|${from}`, (edges.get(`${to}|${from}`) ?? 0) - 1);
					});
					// Turned outwards: the corners go round their normal.
					const [p, q, r] = ring.map((v) => [...positions.subarray(v * 3, v * 3 + 3)]) as [
						number[],
						number[],
						number[],
					];
					const [e, f] = [q.map((v, k) => v - (p[k] as number)), r.map((v, k) => v - (p[k] as number))] as [
						number[],
						number[],
					];
					const n = [0, 1, 2].map(
						(k) =>
							(e[(k + 1) % 3] as number) * (f[(k + 2) % 3] as number) -
							(e[(k + 2) % 3] as number) * (f[(k + 1) % 3] as number),
					);
					expect(n.map((v) => v + 0)).toEqual(
						[...(normals as Float32Array).subarray((a as number) * 3, (a as number) * 3 + 3)].map((v) => v + 0),
					);
				}
				for (const count of edges.values()) expect(count).toBe(0);
				expect(colors?.length).toBe((positions.length / 3) * 4);
			}),
			{ numRuns: 60 },
		);
	});
});

describe('one palette onto another', () => {
	test('by nearness each colour goes to its nearest; by lightness ends go to ends and order is kept', () => {
		const from = ['#2b2d30', '#8a928f', '#dde0da'];
		const to = ['#3b1a1e', '#8d392b', '#cd8036', '#f3e9d2'];
		expect(new Map(colorMapping(from, to, 'light'))).toEqual(
			new Map([
				['#2b2d30', '#3b1a1e'],
				['#8a928f', '#cd8036'],
				['#dde0da', '#f3e9d2'],
			]),
		);
		const near = pixelColors({ name: 'n', colors: to });
		for (const [a, b] of colorMapping(from, to, 'near')) expect(packedOf(b)).toBe(near.nearest(packedOf(a)));
		expect(colorMapping(to, to, 'near')).toEqual([]);
		expect(colorMapping(from, [], 'near')).toEqual([]);
	});
});
