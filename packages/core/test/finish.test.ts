/** Lettering, finishes, spaced patterns and changes of areas. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import { adjustLayer, type Layer, paintLayer, textLayer, washLayer } from '../src/document/index.ts';
import type { Engine, KeptTile } from '../src/engine/index.ts';
import { newFinish } from '../src/finish/index.ts';
import { contourOf } from '../src/raster/index.ts';
import type { Text } from '../src/text/index.ts';
import { alphaAt, openOn, paint, SIDE, text } from './oracle/derived.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});
const open = (layers: readonly Layer[], tiles: readonly KeptTile[] = []): Engine => openOn(kernels, layers, tiles);

describe('lettering', () => {
	const ink = (change: Partial<Text>): Uint8Array => {
		const engine = open([textLayer('w', 'W', { ...text, turn: 0, x: 80, y: 80, ...change })]);
		const { data } = engine.composite('s');
		engine.close();
		return Uint8Array.from({ length: SIDE * SIDE }, (_, i) => data[i * 4 + 3] as number);
	};
	const sum = (tone: Uint8Array): number => tone.reduce((all, v) => all + v / 255, 0);
	test('mirrored lettering is the mirror image; turned by half it is upside down', () => {
		const plain = ink({});
		const mirrored = ink({ mirrored: true });
		const turned = ink({ turn: 180 });
		let [worst, worstTurned] = [0, 0];
		for (let y = 0; y < SIDE; y++)
			for (let x = 0; x < SIDE; x++) {
				worst = Math.max(
					worst,
					Math.abs((plain[y * SIDE + x] as number) - (mirrored[y * SIDE + SIDE - 1 - x] as number)),
				);
				worstTurned = Math.max(
					worstTurned,
					Math.abs((plain[y * SIDE + x] as number) - (turned[(SIDE - 1 - y) * SIDE + SIDE - 1 - x] as number)),
				);
			}
		expect(worst).toBeLessThanOrEqual(1);
		expect(worstTurned).toBeLessThanOrEqual(1);
	});
	test('twice the size is four times the ink; a narrow box breaks lines; spacing widens', () => {
		expect(sum(ink({ size: 32 })) / sum(ink({ size: 16 }))).toBeCloseTo(4, 1);
		const rows = (tone: Uint8Array): number =>
			Array.from({ length: SIDE }, (_, y) => tone.subarray(y * SIDE, (y + 1) * SIDE).some((v) => v > 0)).filter(Boolean)
				.length;
		const columns = (tone: Uint8Array): number => {
			const inked = [...tone.keys()].filter((i) => (tone[i] as number) > 0).map((i) => i % SIDE);
			return Math.max(...inked) - Math.min(...inked);
		};
		const one = { text: 'moss moss', size: 18 };
		expect(rows(ink({ ...one, box: 60 }))).toBeGreaterThan(1.5 * rows(ink(one)));
		expect(columns(ink({ ...one, spacing: 0.2 }))).toBeGreaterThan(columns(ink(one)) + 15);
	});
	test('along a straight line it is the same as set straight', () => {
		const straight = ink({ text: 'Tansy', size: 28 });
		const along = ink({ text: 'Tansy', size: 28, along: [10, 80, 150, 80] });
		expect(Math.abs(sum(straight) - sum(along))).toBeLessThan(8);
		const back = ink({ text: 'Tansy', size: 28, along: [10, 80, 150, 80], mirrored: true });
		let worst = 0;
		for (let i = 0; i < back.length; i++)
			worst = Math.max(
				worst,
				Math.abs((back[i] as number) - (along[Math.floor(i / SIDE) * SIDE + SIDE - 1 - (i % SIDE)] as number)),
			);
		expect(worst).toBeLessThanOrEqual(2);
	});
	test.each(['signboard', 'brush', 'inscription', 'crate', 'pixel'] as const)(
		'the font %s sets letters with marks',
		(font) => {
			expect(sum(ink({ font, text: 'Åäö é', size: 40 }))).toBeGreaterThan(120);
		},
	);
});

describe('finishes', () => {
	const disc = (finish: ReturnType<typeof newFinish>): Engine => {
		const engine = open([paintLayer('p', 'P', { finishes: [finish] })]);
		engine.edit('s', 'p', {
			do: 'shape',
			shape: { kind: 'ellipse', x: 40, y: 40, width: 80, height: 80 },
			outline: null,
			repeat: null,
			color: '#ffffff',
		});
		engine.refresh(() => false);
		return engine;
	};
	const finish = (name: Parameters<typeof newFinish>[0], change: object): ReturnType<typeof newFinish> =>
		({ ...newFinish(name, 'f'), ...change }) as ReturnType<typeof newFinish>;
	test('an outline lies outside, inside or on the border of the shape, as wide as it is told', () => {
		for (const [side, from, to] of [
			['out', 40, 46],
			['in', 34, 40],
			['middle', 37, 43],
		] as const) {
			const engine = disc(finish('outline', { side, width: 6, color: '#ff0000' }));
			for (let r = 1; r < 60; r++) {
				const [red, green, , alpha] = engine.sample('s', 80 + r, 80);
				if (r > from + 1 && r < to - 1) expect([red, green, alpha]).toEqual([255, 0, 255]);
				if (r < from - 1) expect([red, green, alpha]).toEqual([255, 255, 255]);
				if (r > Math.max(to, 40) + 1) expect(alpha).toBe(0);
			}
			engine.close();
		}
	});
	test('a hard outline has no half texels', () => {
		const engine = disc(finish('outline', { side: 'out', width: 3, hard: true, color: '#ff0000' }));
		const { data } = engine.composite('s');
		expect(data.every((v, i) => i % 4 < 3 || v === 0 || v === 255)).toBe(true);
		engine.close();
	});
	test('a tint is clipped to the shape and lies over its colour by its opacity', () => {
		const engine = disc(finish('tint', { color: '#000000', opacity: 0.25 }));
		expect(Math.abs(engine.sample('s', 80, 80)[0] - 191)).toBeLessThanOrEqual(1);
		expect(alphaAt(engine, 20, 20)).toBe(0);
		engine.close();
	});
	test('a stitched line runs inside the shape with whole stitches, and follows an island', () => {
		const engine = disc(
			finish('stitch', { inset: 8, dash: 8, gap: 8, thick: 4, shade: 0, twist: 0, color: '#000000' }),
		);
		const { data } = engine.composite('s');
		const dark = Uint8Array.from({ length: SIDE * SIDE }, (_, i) =>
			data[i * 4 + 3] && (data[i * 4] as number) < 128 ? 255 : 0,
		);
		const count = contourOf(dark, SIDE, SIDE).length;
		// The line inside is a circle of radius 32, about 201 texels long: twelve stitches of 16.
		expect(count).toBe(12);
		for (let i = 0; i < dark.length; i++)
			if (dark[i])
				expect(Math.abs(Math.hypot((i % SIDE) + 0.5 - 80, Math.floor(i / SIDE) + 0.5 - 80) - 32)).toBeLessThan(4);
		engine.close();
		const island = open([
			paintLayer('p', 'P', { finishes: [finish('stitch', { along: [0], inset: 5, dash: 6, gap: 4 })] }),
		]);
		const around = island.composite('s').data;
		expect(around.some((v, i) => i % 4 === 3 && v > 0)).toBe(true);
		island.close();
	});
});

test('a pattern is set evenly: whole motifs only, all alike, as many as are asked for', () => {
	const fill = {
		fill: 'pattern',
		picture: 'leaf',
		box: { x: 16, y: 16, width: 128, height: 128 },
		across: 4,
		gap: 0.5,
		staggered: false,
		turn: 0,
		jitterTurn: 0,
		jitterSize: 0,
		seed: 1,
		tint: '#123456',
	} as const;
	const engine = open([washLayer('w', 'W', '#000000', { fill })]);
	const { data } = engine.composite('s');
	const at = (x: number, y: number): number => data[(y * SIDE + x) * 4 + 3] as number;
	for (let y = 16; y < 48; y++)
		for (let x = 16; x < 48; x++)
			if (at(x + 32, y) !== at(x, y) || at(x, y + 96) !== at(x, y)) throw new Error(`unlike at ${x} ${y}`);
	for (let y = 0; y < SIDE; y++)
		for (let x = 0; x < SIDE; x++)
			if ((x < 16 || y < 16 || x >= 144 || y >= 144) && at(x, y)) throw new Error(`beside the box at ${x} ${y}`);
	expect(data.some((v, i) => i % 4 === 3 && v > 200)).toBe(true);
	engine.close();
});

test('a blur as an adjust layer is the blur of the picture below it, within its shape, and a mask limits it', () => {
	const layers = (soft: boolean): Layer[] => [
		paintLayer('a', 'A'),
		...(soft ? [adjustLayer('soft', 'Soft', { op: 'blur', radius: 3 } as const)] : []),
	];
	const plain = open(layers(false));
	paint(plain, 'a', 'color', 8);
	const engine = open(layers(true));
	paint(engine, 'a', 'color', 8);
	const edited = plain.edit('s', 'a', { do: 'tone', tone: { op: 'blur', radius: 3 } });
	expect(edited.ok).toBe(true);
	const [one, live] = [plain.composite('s').data, engine.composite('s').data];
	let worst = 0;
	for (let i = 0; i < one.length; i += 4)
		if (live[i + 3] === 255 && one[i + 3] === 255)
			for (let k = 0; k < 3; k++) worst = Math.max(worst, Math.abs((one[i + k] as number) - (live[i + k] as number)));
	expect(worst).toBeLessThanOrEqual(1);
	plain.close();
	engine.close();
});
