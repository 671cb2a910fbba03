/** Layers whose texels point at entries of the palette: what is turned goes along, what is painted is an entry's colour. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels, loadPngReader, loadPngWriter } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { type Hex, rgbOfHex } from '../src/color/index.ts';
import { type PaintLayer, type Project, paintLayer, projectProblem } from '../src/document/index.ts';
import { type Engine, openEngine } from '../src/engine/index.ts';
import { layoutOf } from '../src/layout/index.ts';
import type { LaidMesh } from '../src/mesh/index.ts';
import { readOpenRaster, sheetOfOpenRaster, takeOpenRaster, writeOpenRaster } from '../src/openraster/index.ts';
import { entriesOf, entryUses, followEntries, hexOfPacked, packedOf, renumbered } from '../src/pixel/index.ts';
import { defaultTip } from '../src/stroke/index.ts';
import { readTexels } from '../src/surface/index.ts';
import { box, projectOf } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const [RED, BLUE, GREEN, SAND] = ['#b03028', '#2850b0', '#309840', '#d8c890'] as const;
const [W, H] = [16, 12];
const project = (colors: readonly Hex[] = [RED, BLUE, GREEN]): Project => ({
	schema: 1,
	id: 'e',
	name: 'E',
	models: [],
	palette: { name: 'P', colors },
	sheets: [
		{
			id: 's',
			name: 'S',
			width: W,
			height: H,
			bleed: 0,
			base: null,
			guide: null,
			pixel: true,
			layers: [paintLayer('p', 'Paint'), paintLayer('q', 'Plain')],
		},
	],
});
const open = (colors?: readonly Hex[]): Engine => openEngine(kernels, project(colors), [], new Map());
const layerNow = (engine: Engine, id = 'p'): PaintLayer =>
	engine.project.sheets[0]?.layers.find((layer) => layer.id === id) as PaintLayer;
/** The colour of a texel of a layer; null where it is clear. */
const at = (engine: Engine, x: number, y: number, id = 'p'): Hex | null => {
	const surface = engine.surface(layerNow(engine, id).surface);
	if (!surface) throw new Error('no surface');
	const words = new Uint32Array(readTexels(kernels.heap, surface, 0).buffer);
	const word = words[y * 64 + x] as number;
	return word >>> 24 ? hexOfPacked(word & 0xffffff) : null;
};
const paint = (engine: Engine, color: Hex, x: number, y: number, id = 'p'): void => {
	engine.begin(
		{
			tool: 'draw',
			tip: defaultTip,
			color,
			place: { on: 'sheet', sheet: 's' },
			layers: { s: id },
			pencil: { size: 1, corners: false, mixing: null },
		},
		[{ x: x + 0.5, y: y + 0.5, pressure: 1 }],
	);
	engine.end();
};
const setPalette = (engine: Engine, colors: readonly Hex[], entries?: readonly number[]): void =>
	void engine.run({ do: 'palette.set', palette: { name: 'P', colors }, ...(entries ? { entries } : {}) });
/** One entry becomes another colour; what is no layer that points goes along by its colour. */
const turn = (
	engine: Engine,
	place: number,
	to: Hex,
	pairs: readonly (readonly [Hex, Hex])[] = [],
	gesture?: string,
) => {
	const { palette } = engine.project;
	const next = { ...palette, colors: palette.colors.map((hex, i) => (i === place ? to : hex)) };
	return engine.recolor(['s'], pairs, next, null, gesture, true);
};

describe('the numbers of entries', () => {
	test('an entry keeps its number wherever it goes; another colour is another entry; no number is given twice', () => {
		const before = entriesOf({ colors: [RED, BLUE, GREEN] });
		expect(before.numbers).toEqual([1, 2, 3]);
		expect(renumbered(before, [GREEN, RED, BLUE])).toEqual([3, 1, 2]);
		expect(renumbered(before, [RED, SAND, GREEN])).toEqual([1, 4, 3]);
		expect(renumbered(before, [BLUE])).toEqual([2]);
		expect(renumbered({ colors: [RED, RED], numbers: [7, 3] }, [BLUE, RED, RED])).toEqual([8, 3, 7]);
		const hex = fc.constantFrom(RED, BLUE, GREEN, SAND);
		fc.assert(
			fc.property(fc.array(hex, { maxLength: 8 }), fc.array(hex, { maxLength: 8 }), (from, to) => {
				const own = entriesOf({ colors: from });
				const next = renumbered(own, to);
				expect(new Set(next).size).toBe(next.length);
				next.forEach((number, i) => {
					if (number <= from.length) expect(to[i]).toBe(from[number - 1]);
				});
				// As many are kept as can be.
				const count = (list: readonly Hex[], one: Hex): number => list.filter((each) => each === one).length;
				const kept = [RED, BLUE, GREEN, SAND].reduce((sum, one) => sum + Math.min(count(from, one), count(to, one)), 0);
				expect(next.filter((number) => number <= from.length)).toHaveLength(kept);
			}),
		);
	});
	test('every texel follows its own entry, also through a colour that two have; half clear and clear ones keep their alpha', () => {
		const solid = (hex: Hex, alpha = 255): number => (packedOf(hex) | (alpha << 24)) >>> 0;
		const to = (number: number): number => (number | 0xff000000) >>> 0;
		const texels = Uint32Array.from([solid(RED), solid(RED), solid(BLUE, 90), 0, solid(SAND)]);
		const pointers = Uint32Array.from([to(1), to(4), to(2), to(1), to(1)]);
		const before = { colors: [RED, BLUE, RED], numbers: [1, 2, 4] };
		const after = { colors: [RED, GREEN, SAND], numbers: [1, 2, 4] };
		const now = followEntries({ texels, pointers }, before, after);
		expect([...now.texels]).toEqual([solid(RED), solid(SAND), solid(GREEN, 90), 0, solid(SAND)]);
		expect([...now.pointers]).toEqual([to(1), to(4), to(2), 0, to(4)]);
		expect(entryUses({ texels, pointers }, before)).toEqual([1, 1, 1]);
		// What pairs say comes first; an entry that is gone leaves its colour.
		const mapped = followEntries({ texels, pointers }, before, { colors: [GREEN], numbers: [9] }, [[RED, GREEN]]);
		expect([...mapped.texels]).toEqual([solid(GREEN), solid(GREEN), solid(BLUE, 90), 0, solid(SAND)]);
		expect([...mapped.pointers]).toEqual([to(9), to(9), 0, 0, 0]);
	});
});

describe('a layer that points at entries', () => {
	test('takes the nearest of them, and so does all that is painted on it; undone it is as it was', () => {
		const engine = open();
		paint(engine, '#b43531', 2, 3);
		expect(at(engine, 2, 3)).toBe('#b43531');
		engine.pointAtEntries('s', 'p', 'p-e');
		expect(projectProblem(engine.project)).toBeNull();
		expect(at(engine, 2, 3)).toBe(RED);
		paint(engine, '#30a050', 5, 5);
		expect(at(engine, 5, 5)).toBe(GREEN);
		engine.edit('s', 'p', { do: 'flood', color: '#3060c0', x: 9, y: 9, reach: 'sheet' } as never);
		const held = new Set(Array.from({ length: W * H }, (_, i) => at(engine, i % W, Math.floor(i / W))));
		expect([...held].every((hex) => hex === null || ([RED, BLUE, GREEN] as string[]).includes(hex))).toBe(true);
		// A layer that does not point takes the pot's own colour.
		paint(engine, '#30a050', 5, 5, 'q');
		expect(at(engine, 5, 5, 'q')).toBe('#30a050');
		while (engine.history.done.length > 1) engine.undo();
		expect(at(engine, 2, 3)).toBe('#b43531');
		expect(layerNow(engine).entries ?? null).toBeNull();
	});
	test('an entry is turned: what points at it follows, on every layer that points, and nothing else; one step', () => {
		const engine = open([RED, BLUE, GREEN]);
		for (const [color, x] of [
			[RED, 1],
			[BLUE, 2],
		] as const) {
			paint(engine, color, x, 1);
			paint(engine, color, x, 1, 'q');
		}
		engine.pointAtEntries('s', 'p', 'p-e');
		const steps = engine.history.done.length;
		for (const hex of [SAND, '#112233', BLUE]) turn(engine, 0, hex, [], 'drag');
		expect(engine.history.done).toHaveLength(steps + 1);
		expect([at(engine, 1, 1), at(engine, 2, 1), at(engine, 1, 1, 'q')]).toEqual([BLUE, BLUE, RED]);
		expect(engine.entryUses('s')).toEqual([1, 1, 0]);
		// Two entries have one colour now, and are still two.
		turn(engine, 0, SAND);
		expect([at(engine, 1, 1), at(engine, 2, 1)]).toEqual([SAND, BLUE]);
		engine.undo();
		engine.undo();
		expect([at(engine, 1, 1), at(engine, 2, 1)]).toEqual([RED, BLUE]);
		expect(engine.project.palette.colors).toEqual([RED, BLUE, GREEN]);
		engine.redo();
		engine.redo();
		expect([at(engine, 1, 1), at(engine, 2, 1)]).toEqual([SAND, BLUE]);
	});
	test('what is moved still points where it did', () => {
		const engine = open([RED, BLUE]);
		paint(engine, RED, 1, 1);
		paint(engine, BLUE, 2, 1);
		engine.pointAtEntries('s', 'p', 'p-e');
		turn(engine, 1, RED);
		engine.edit('s', 'p', { do: 'transform', map: [1, 0, 4, 0, 1, 3], smooth: false } as never);
		expect([at(engine, 1, 1), at(engine, 5, 4), at(engine, 6, 4)]).toEqual([null, RED, RED]);
		turn(engine, 1, GREEN);
		expect([at(engine, 5, 4), at(engine, 6, 4)]).toEqual([RED, GREEN]);
	});
	test('a palette put in order keeps every texel; one mapped by pairs brings them along; a lost entry leaves its colour', () => {
		const engine = open([RED, BLUE, GREEN]);
		[RED, BLUE, GREEN].forEach((hex, x) => paint(engine, hex, x, 0));
		engine.pointAtEntries('s', 'p', 'p-e');
		const row = () => [at(engine, 0, 0), at(engine, 1, 0), at(engine, 2, 0)];
		setPalette(engine, [GREEN, BLUE, RED, SAND]);
		expect(row()).toEqual([RED, BLUE, GREEN]);
		expect(engine.project.entries).toEqual([3, 2, 1, 4]);
		expect(engine.entryUses('s')).toEqual([1, 1, 1, 0]);
		turn(engine, 0, SAND);
		expect(row()).toEqual([RED, BLUE, SAND]);
		engine.undo();
		setPalette(engine, [RED, GREEN]);
		expect(row()).toEqual([RED, BLUE, GREEN]);
		engine.recolor(['s'], [[RED, SAND]], { name: 'New', colors: [SAND, '#101010'] });
		expect(row()).toEqual([SAND, BLUE, GREEN]);
		expect(engine.entryUses('s')).toEqual([1, 0]);
		for (let i = 0; i < 2; i++) engine.undo();
		expect(row()).toEqual([RED, BLUE, GREEN]);
		expect(engine.project.palette.colors).toEqual([GREEN, BLUE, RED, SAND]);
	});
	test('a colour that is replaced becomes an entry; a locked layer stays; a step of several commands goes along', () => {
		const engine = open();
		paint(engine, RED, 0, 0);
		engine.pointAtEntries('s', 'p', 'p-e');
		engine.recolor(['s'], [[RED, '#38a048']], null);
		expect(at(engine, 0, 0)).toBe(GREEN);
		const lock = { do: 'layer.change', sheet: 's', layer: 'p', change: { locked: true } } as const;
		engine.run(lock);
		turn(engine, 2, SAND);
		expect(at(engine, 0, 0)).toBe(GREEN);
		engine.undo();
		engine.undo();
		engine.runAll(
			[
				{ do: 'palette.set', palette: { name: 'P', colors: [RED, BLUE, SAND] }, entries: [1, 2, 3] } as never,
				{ do: 'layer.change', sheet: 's', layer: 'q', change: { name: 'Other' } },
			],
			'Both',
		);
		expect([at(engine, 0, 0), layerNow(engine, 'q').name]).toEqual([SAND, 'Other']);
		engine.undo();
		expect([at(engine, 0, 0), layerNow(engine, 'q').name]).toEqual([GREEN, 'Plain']);
	});
	test('a copy points too, beside it and through a clip; at another size it is colours alone', () => {
		const engine = open([RED, BLUE]);
		paint(engine, RED, 1, 1);
		engine.pointAtEntries('s', 'p', 'p-e');
		turn(engine, 0, BLUE);
		let n = 0;
		const clip = engine.clip('s', 'p');
		const { layer } = engine.paste(clip, 's', 2, null, () => `new-${n++}`);
		expect(layerNow(engine, layer).entries).not.toBe('p-e');
		turn(engine, 0, GREEN);
		expect([at(engine, 1, 1), at(engine, 1, 1, layer)]).toEqual([GREEN, GREEN]);
		const half = { ...clip, width: W * 2, height: H * 2 };
		const other = engine.paste(half, 's', 0, null, () => `half-${n++}`);
		expect(layerNow(engine, other.layer).entries ?? null).toBeNull();
	});
	test('what went out as OpenRaster points where it did when it comes back, here and on a new sheet', async () => {
		const [write, read] = [await loadPngWriter(), await loadPngReader()];
		const engine = open([RED, BLUE]);
		paint(engine, RED, 1, 1);
		paint(engine, BLUE, 2, 1);
		engine.pointAtEntries('s', 'p', 'p-e');
		turn(engine, 1, RED);
		const image = readOpenRaster(writeOpenRaster(engine, 's', write).bytes, 'e.ora', read);
		let n = 0;
		const newId = (): string => `ora-${n++}`;
		expect(takeOpenRaster(engine, 's', image, 'Take', newId)).toMatchObject({ changed: 0, notes: [] });
		const { sheet, texels } = sheetOfOpenRaster(image, 'New', newId);
		engine.bringLayers(sheet, texels);
		turn(engine, 1, GREEN);
		const texel = (id: string, x: number): number[] => [
			...engine.composite(id).data.subarray((W + x) * 4, (W + x) * 4 + 3),
		];
		expect(texel('s', 2)).toEqual(rgbOfHex(GREEN));
		expect([texel(sheet.id, 1), texel(sheet.id, 2)]).toEqual([rgbOfHex(RED), rgbOfHex(GREEN)]);
	});
	test('what is carried to another layout still points where it did', () => {
		const mesh = box();
		const flat = projectOf(mesh, 64, [paintLayer('p', 'Paint')]);
		const sheets = flat.sheets.map((sheet) => ({ ...sheet, pixel: true, bleed: 0 }));
		const palette = { name: 'P', colors: [RED, BLUE] };
		const engine = openEngine(kernels, { ...flat, palette, sheets }, [], new Map([['m', mesh]]));
		const halves = new Uint8Array(64 * 64 * 4);
		for (let i = 0; i < 64 * 64; i++) halves.set([...rgbOfHex(i % 64 < 32 ? RED : BLUE), 255], i * 4);
		engine.lay('s', 'p', 'color', { width: 64, height: 64, data: halves }, 'Halves');
		engine.pointAtEntries('s', 'p', 'p-e');
		turn(engine, 1, RED);
		const uses = engine.entryUses('s');
		const { uvs } = layoutOf(engine.scene('m')?.mesh as LaidMesh);
		let n = 0;
		// Upside down: each island lies elsewhere, as large as before.
		engine.relay(
			{ layouts: new Map([['m', { uvs: uvs.map((v, i) => (i % 2 ? 1 - v : v)) }]]) },
			'Turn',
			() => `r-${n++}`,
		);
		expect(layerNow(engine).entries).not.toBe('p-e');
		expect(engine.entryUses('s').every((count) => count > 0)).toBe(true);
		expect(engine.entryUses('s').reduce((sum, v) => sum + v)).toBe(uses.reduce((sum, v) => sum + v));
		turn(engine, 1, GREEN);
		const shown = new Set<string>();
		const { data } = engine.composite('s');
		for (let i = 0; i < data.length; i += 4) if (data[i + 3]) shown.add([...data.subarray(i, i + 3)].join());
		expect(shown).toEqual(new Set([rgbOfHex(RED).join(), rgbOfHex(GREEN).join()]));
	});
	test('what cannot point is refused with what to do, and nothing is changed', () => {
		const engine = open();
		const steps = engine.history.done.length;
		expect(() => engine.pointAtEntries('s', 'nobody', 'e')).toThrow(/paint layer of a pixel sheet/);
		engine.run({ do: 'layer.change', sheet: 's', layer: 'p', change: { locked: true } });
		expect(() => engine.pointAtEntries('s', 'p', 'e')).toThrow(/"Paint" is locked/);
		engine.run({ do: 'layer.change', sheet: 's', layer: 'q', change: { loose: true } });
		expect(() => engine.pointAtEntries('s', 'q', 'e')).toThrow(/whole texels/);
		expect(() => open([]).pointAtEntries('s', 'p', 'e')).toThrow(/no entries/);
		expect(engine.history.done).toHaveLength(steps + 2);
	});
	test('kept and opened again it goes on as it was', () => {
		const engine = open([RED, BLUE]);
		paint(engine, RED, 1, 1);
		paint(engine, BLUE, 2, 1);
		engine.pointAtEntries('s', 'p', 'p-e');
		setPalette(engine, [BLUE, RED]);
		turn(engine, 1, BLUE);
		const kept = engine.whole();
		const again = openEngine(kernels, JSON.parse(JSON.stringify(kept.project)), kept.tiles, new Map());
		turn(again, 1, SAND);
		expect([at(again, 1, 1), at(again, 2, 1)]).toEqual([SAND, BLUE]);
	});
});
