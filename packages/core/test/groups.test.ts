/** Groups, masks and adjust layers through the engine: commands and their inverses, and what the picture becomes. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels, loadPngWriter } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import {
	adjustLayer,
	type Command,
	CommandError,
	eachLayer,
	groupLayer,
	type Layer,
	paintLayer,
	placeOfLayer,
	projectProblem,
	washLayer,
} from '../src/document/index.ts';
import { type Engine, type KeptTile, openEngine, type StrokeSpec } from '../src/engine/index.ts';
import { buildUpPicture, gridOf, pictureAsPng } from '../src/format/index.ts';
import { defaultTip, unruled } from '../src/stroke/index.ts';
import { box, projectOf } from './oracle/meshes.ts';
import { seeded } from './oracle/surfaces.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const SIDE = 128;
const mesh = box();
const project = (layers: readonly Layer[]) => projectOf(mesh, SIDE, layers);
const open = (layers: readonly Layer[]): Engine => openEngine(kernels, project(layers), [], new Map([['m', mesh]]));
const stack = (): Layer[] => [
	washLayer('ground', 'Ground', '#8899aa'),
	groupLayer('g', 'Coats', [
		paintLayer('a', 'A'),
		groupLayer('inner', 'Inner', [paintLayer('b', 'B', { mode: 'multiply' })], { isolated: true, opacity: 0.8 }),
		adjustLayer('t', 'Tones', { op: 'contrast', brightness: 0.1, contrast: 0.3 }),
	]),
	paintLayer('c', 'C', { mode: 'screen', opacity: 0.7 }),
];
const noise = (engine: Engine, layer: string, seed: number, alphas = [0, 90, 255]): void => {
	const random = seeded(seed);
	const data = Uint8Array.from({ length: SIDE * SIDE * 4 }, (_, i) =>
		i % 4 < 3 ? random() * 256 : (alphas[Math.floor(random() * alphas.length)] as number),
	);
	engine.lay('s', layer, 'color', { width: SIDE, height: SIDE, data }, layer);
};
const pictured = (engine: Engine): Buffer => Buffer.from(engine.composite('s').data);
const far = (a: Buffer, b: Buffer): number => {
	let worst = 0;
	for (let i = 0; i < a.length; i += 4) {
		const [x, y] = [a[i + 3] as number, b[i + 3] as number];
		worst = Math.max(worst, Math.abs(x - y));
		for (let k = 0; k < 3; k++)
			worst = Math.max(worst, Math.abs(((a[i + k] as number) * x) / 255 - ((b[i + k] as number) * y) / 255));
	}
	return worst;
};

test('layers are found and placed in whatever group they are', () => {
	const sheet = project(stack()).sheets[0];
	if (!sheet) throw new Error('no sheet');
	expect([...eachLayer(sheet.layers)].map((layer) => layer.id)).toEqual(['ground', 'g', 'a', 'inner', 'b', 't', 'c']);
	const place = placeOfLayer(sheet, 'b');
	expect([place?.parent?.id, place?.at, place?.path.map((group) => group.id)]).toEqual(['inner', 0, ['g', 'inner']]);
	expect(projectProblem(project(stack()))).toBeNull();
});

test('any run of commands on a tree is undone to where it began, redone to where it ended, and stays well formed', () => {
	const ids = ['ground', 'g', 'a', 'inner', 'b', 't', 'c'];
	const id = fc.constantFrom(...ids);
	const parent = fc.constantFrom(null, 'g', 'inner', 'made0', 'made1');
	let made = 0;
	const command: fc.Arbitrary<() => Command> = fc.oneof(
		fc
			.record({ layer: id, to: fc.nat(4), parent })
			.map((each) => () => ({ do: 'layer.move' as const, sheet: 's', ...each })),
		fc.record({ at: fc.nat(4), parent }).map((each) => () => {
			const name = `new${made++}`;
			return { do: 'layer.add' as const, sheet: 's', layer: paintLayer(name, name), ...each };
		}),
		id.map((layer) => () => ({ do: 'layer.remove' as const, sheet: 's', layer })),
		fc.subarray(ids, { minLength: 1, maxLength: 3 }).map((layers) => () => {
			const name = `made${made++}`;
			return { do: 'group.make' as const, sheet: 's', group: groupLayer(name, name, []), layers };
		}),
		id.map((group) => () => ({ do: 'group.open' as const, sheet: 's', group })),
		fc
			.record({ layer: id, opacity: fc.constantFrom(0.2, 0.9), clip: fc.boolean() })
			.map(({ layer, ...change }) => () => ({ do: 'layer.change' as const, sheet: 's', layer, change })),
		id.map((layer) => () => ({
			do: 'layer.change' as const,
			sheet: 's',
			layer,
			change: { mask: { surface: `${layer}-m`, on: true } },
		})),
	);
	fc.assert(
		fc.property(fc.array(command, { minLength: 1, maxLength: 10 }), (list) => {
			made = 0;
			const engine = open(stack());
			noise(engine, 'a', 1);
			noise(engine, 'b', 2);
			noise(engine, 'c', 3);
			const steps = engine.history.done.length;
			const [start, first] = [engine.project, pictured(engine)];
			for (const next of list)
				try {
					engine.run(next());
				} catch (error) {
					expect(error).toBeInstanceOf(CommandError);
				}
			expect(projectProblem(engine.project)).toBeNull();
			const [end, last] = [engine.project, pictured(engine)];
			while (engine.history.done.length > steps) engine.undo();
			expect(engine.project).toEqual(start);
			expect(Buffer.compare(pictured(engine), first)).toBe(0);
			while (engine.redo());
			expect(engine.project).toEqual(end);
			expect(Buffer.compare(pictured(engine), last)).toBe(0);
			engine.close();
		}),
		{ numRuns: 40 },
	);
});

test('what cannot be is refused in words, and changes nothing', () => {
	const engine = open(stack());
	const before = engine.project;
	const wrong: Command[] = [
		{ do: 'layer.move', sheet: 's', layer: 'g', to: 0, parent: 'inner' },
		{ do: 'layer.move', sheet: 's', layer: 'c', to: 0, parent: 'a' },
		{ do: 'group.open', sheet: 's', group: 'a' },
		{ do: 'group.make', sheet: 's', group: groupLayer('x', 'X', []), layers: ['a', 'c'] },
		{ do: 'layer.change', sheet: 's', layer: 'a', change: { isolated: true } },
		{ do: 'layer.change', sheet: 's', layer: 'a', change: { tone: { op: 'posterize', steps: 4 } } },
	];
	for (const command of wrong) expect(() => engine.run(command)).toThrow(CommandError);
	let deep: Layer = paintLayer('leaf', 'Leaf');
	for (let i = 0; i < 9; i++) deep = groupLayer(`d${i}`, `D${i}`, [deep]);
	expect(() => engine.run({ do: 'layer.add', sheet: 's', layer: deep, at: 0 })).toThrow(/deep/);
	expect(engine.project).toBe(before);
	expect(projectProblem(project([deep]))).toMatch(/deep/);
	engine.close();
});

test('a copied group brings its pixels and masks along; what is kept opens to the same picture', () => {
	const engine = open(stack());
	for (const [i, layer] of ['a', 'b', 'c'].entries()) noise(engine, layer, i + 5);
	engine.run({ do: 'layer.change', sheet: 's', layer: 'inner', change: { mask: { surface: 'im', on: true } } });
	engine.changeMask('s', 'inner', { to: 'value', value: 99 });
	const copy = groupLayer('g2', 'Coats 2', [
		paintLayer('a2', 'A'),
		groupLayer('inner2', 'Inner', [paintLayer('b2', 'B', { mode: 'multiply' })], {
			isolated: true,
			opacity: 0.8,
			mask: { surface: 'im2', on: true },
		}),
		adjustLayer('t2', 'Tones', { op: 'contrast', brightness: 0.1, contrast: 0.3 }),
	]);
	engine.run({ do: 'layer.add', sheet: 's', layer: copy, at: 2, copyOf: 'g' });
	expect(engine.sample('s', 20, 30, 'b2')).toEqual(engine.sample('s', 20, 30, 'b'));
	engine.run({ do: 'layer.change', sheet: 's', layer: 'g', change: { shown: false } });
	const shown = pictured(engine);
	const delta = engine.takeDelta();
	if (!delta) throw new Error('nothing to keep');
	const tiles: KeptTile[] = [...delta.tiles];
	const again = openEngine(kernels, delta.project, tiles, new Map([['m', mesh]]));
	expect(Buffer.compare(pictured(again), shown)).toBe(0);
	engine.close();
	again.close();
});

describe('masks', () => {
	const onMask: StrokeSpec = {
		tool: 'draw',
		tip: { ...unruled(defaultTip), size: 30, strength: 1, edge: 1 },
		color: '#000000',
		place: { on: 'sheet', sheet: 's' },
		layers: { s: 'ground' },
		onMask: true,
	};
	const across = [
		{ x: 20, y: 64, pressure: 1 },
		{ x: 108, y: 64, pressure: 1 },
	];
	const paint = (engine: Engine, spec: StrokeSpec): ReturnType<Engine['begin']> => {
		const begun = engine.begin(spec, across.slice(0, 1));
		engine.extend(across.slice(1));
		engine.end();
		return begun;
	};
	test('show all when they are new, are painted black to hide and white to show, and can be seen alone', () => {
		const engine = open([washLayer('ground', 'Ground', '#8899aa')]);
		expect(paint(engine, onMask)).toMatchObject({
			ok: false,
			refusal: { code: 'no-mask', mend: { addMask: 'ground' } },
		});
		engine.run({ do: 'layer.change', sheet: 's', layer: 'ground', change: { mask: { surface: 'gm', on: true } } });
		expect(engine.sample('s', 64, 64)[3]).toBe(255);
		expect(paint(engine, onMask).ok).toBe(true);
		expect(engine.history.done.at(-1)?.words).toBe('Stroke on the mask of "Ground"');
		expect([engine.sample('s', 64, 64)[3], engine.sample('s', 64, 20)[3]]).toEqual([0, 255]);
		engine.look('s', { layer: 'ground', on: 'mask' });
		const out = kernels.heap.alloc(16384);
		engine.compositeTile('s', 0, out);
		const texel = (x: number, y: number): number[] => [
			...kernels.heap.u8.subarray(out + (y * 64 + x) * 4, out + (y * 64 + x) * 4 + 4),
		];
		expect([texel(40, 60), texel(40, 10)]).toEqual([
			[0, 0, 0, 255],
			[255, 255, 255, 255],
		]);
		// What is seen alone is never what is handed off.
		expect(engine.composite('s').data[(10 * SIDE + 40) * 4]).toBe(0x88);
		engine.look('s', null);
		expect(paint(engine, { ...onMask, color: '#ffffff' }).ok).toBe(true);
		expect(engine.sample('s', 64, 64)[3]).toBe(255);
		engine.run({ do: 'layer.change', sheet: 's', layer: 'ground', change: { mask: { surface: 'gm', on: false } } });
		expect(paint(engine, onMask)).toMatchObject({ ok: false, refusal: { code: 'mask-off' } });
		engine.close();
	});
	test('are inverted, filled and turned into pixels, each undone exactly', () => {
		const engine = open([washLayer('ground', 'Ground', '#8899aa'), paintLayer('p', 'P')]);
		noise(engine, 'p', 4);
		engine.run({ do: 'layer.change', sheet: 's', layer: 'p', change: { mask: { surface: 'pm', on: true } } });
		paint(engine, { ...onMask, layers: { s: 'p' }, color: '#808080' });
		const masked = pictured(engine);
		engine.changeMask('s', 'p', { to: 'inverse' });
		const inverse = pictured(engine);
		expect(Buffer.compare(inverse, masked)).not.toBe(0);
		engine.changeMask('s', 'p', { to: 'inverse' });
		expect(Buffer.compare(pictured(engine), masked)).toBe(0);
		engine.changeMask('s', 'p', { to: 'pixels' });
		expect(engine.project.sheets[0]?.layers[1]?.mask).toBeNull();
		// Alpha is rounded to bytes once more.
		expect(far(pictured(engine), masked)).toBeLessThanOrEqual(2);
		engine.undo();
		expect(Buffer.compare(pictured(engine), masked)).toBe(0);
		expect(engine.project.sheets[0]?.layers[1]?.mask).toEqual({ surface: 'pm', on: true });
		engine.changeMask('s', 'p', { to: 'value', value: 0 });
		expect(engine.sample('s', 50, 50)).toEqual([0x88, 0x99, 0xaa, 255]);
		expect(() => engine.changeMask('s', 'ground', { to: 'inverse' })).toThrow(CommandError);
		engine.close();
	});
	test('filled by the fill tool take the colour’s lightness on an island alone', () => {
		const engine = open([paintLayer('p', 'P')]);
		noise(engine, 'p', 6, [255]);
		engine.run({ do: 'layer.change', sheet: 's', layer: 'p', change: { mask: { surface: 'pm', on: true } } });
		const scene = engine.scene('m');
		const sheet = engine.project.sheets[0];
		if (!scene || !sheet) throw new Error('no scene');
		const [x, y] = [SIDE * 0.17, SIDE * 0.2];
		expect(engine.fill('s', 'p', x, y, '#000000', { onMask: true }).ok).toBe(true);
		expect(engine.sample('s', x, y)[3]).toBe(0);
		const other = [0.5, 0.83].map((u) => u * SIDE) as [number, number];
		const apart = scene.spotOn(sheet, null, x, y)?.island !== scene.spotOn(sheet, null, SIDE * 0.5, SIDE * 0.2)?.island;
		expect([apart, engine.sample('s', SIDE * 0.5, SIDE * 0.2)[3], other.length]).toEqual([true, 255, 2]);
		engine.close();
	});
});

describe('making one of several', () => {
	test('merging down and flattening keep the picture, in one step that is undone exactly', () => {
		const engine = open([
			washLayer('ground', 'Ground', '#8899aa'),
			paintLayer('a', 'A'),
			paintLayer('b', 'B', { opacity: 0.6, mode: 'multiply' }),
			groupLayer('g', 'G', [paintLayer('c', 'C'), paintLayer('d', 'D', { mode: 'screen', opacity: 0.5 })], {
				isolated: true,
				mode: 'overlay',
				opacity: 0.7,
			}),
		]);
		noise(engine, 'a', 1, [255]);
		for (const [i, layer] of ['b', 'c', 'd'].entries()) noise(engine, layer, i + 2);
		const before = pictured(engine);
		const whole = engine.project;
		engine.mergeDown('s', 'b', 'ab');
		expect(engine.project.sheets[0]?.layers.map((layer) => layer.id)).toEqual(['ground', 'ab', 'g']);
		expect(far(pictured(engine), before)).toBeLessThanOrEqual(2);
		engine.flatten('s', 'g', 'flat');
		expect(engine.project.sheets[0]?.layers[2]).toMatchObject({
			id: 'flat',
			kind: 'paint',
			mode: 'overlay',
			opacity: 0.7,
		});
		expect(far(pictured(engine), before)).toBeLessThanOrEqual(3);
		expect(engine.history.done.slice(-2).map((step) => step.words)).toEqual(['Merge "B" down', 'Flatten "G"']);
		engine.undo();
		engine.undo();
		expect(engine.project).toEqual(whole);
		expect(Buffer.compare(pictured(engine), before)).toBe(0);
		engine.redo();
		engine.redo();
		expect(far(pictured(engine), before)).toBeLessThanOrEqual(3);
		engine.close();
	});
	test('a group that stands out does so as one layer; what stands out by itself is not made a part of another', () => {
		const relief = { from: 'shape', height: 1, soft: 1 } as const;
		const engine = open([
			paintLayer('a', 'A', { relief }),
			paintLayer('b', 'B'),
			groupLayer('g', 'G', [paintLayer('c', 'C')], { relief }),
			groupLayer('h', 'H', [paintLayer('d', 'D', { relief })]),
		]);
		for (const [i, layer] of ['a', 'b', 'c', 'd'].entries()) noise(engine, layer, i + 2);
		engine.flatten('s', 'g', 'flat');
		expect(engine.project.sheets[0]?.layers[2]).toMatchObject({ id: 'flat', relief });
		expect(() => engine.mergeDown('s', 'b', 'x')).toThrow(/"A" stands out by itself.*Nothing was changed/);
		expect(() => engine.flatten('s', 'h', 'x')).toThrow(/"D" stands out by itself/);
		expect(engine.history.done).toHaveLength(5);
		engine.close();
	});
	test('is refused where the picture would change', () => {
		const engine = open([paintLayer('a', 'A', { mode: 'multiply' }), paintLayer('b', 'B')]);
		expect(() => engine.mergeDown('s', 'b', 'x')).toThrow(/look the same/);
		expect(() => engine.mergeDown('s', 'a', 'x')).toThrow(/no layer below/);
		expect(() => engine.flatten('s', 'a', 'x')).toThrow(CommandError);
		expect(engine.history.done).toHaveLength(0);
		engine.close();
	});
});

test('a stroke in a group shows what it will be: the cache of what lies under it changes nothing', () => {
	const engine = open([washLayer('w', 'W', '#334455'), paintLayer('x', 'X', { mode: 'screen' }), ...stack().slice(1)]);
	for (const [i, layer] of ['x', 'a', 'b', 'c'].entries()) noise(engine, layer, i + 9);
	const spec: StrokeSpec = {
		tool: 'draw',
		tip: { ...unruled(defaultTip), size: 40 },
		color: '#e8b345',
		place: { on: 'sheet', sheet: 's' },
		layers: { s: 'b' },
	};
	engine.begin(spec, [{ x: 30, y: 30, pressure: 1 }]);
	engine.extend([{ x: 100, y: 90, pressure: 1 }]);
	const out = kernels.heap.alloc(16384);
	// The second look at each tile is made from the cache that the first one filled.
	for (let turn = 0; turn < 2; turn++) {
		const { data } = engine.composite('s');
		for (let tile = 0; tile < 4; tile++) {
			engine.compositeTile('s', tile, out);
			for (let row = 0; row < 64; row++) {
				const from = ((Math.floor(tile / 2) * 64 + row) * SIDE + (tile % 2) * 64) * 4;
				const shown = kernels.heap.u8.subarray(out + row * 256, out + (row + 1) * 256);
				expect(Buffer.compare(Buffer.from(shown), Buffer.from(data.subarray(from, from + 256)))).toBe(0);
			}
		}
	}
	engine.end();
	engine.close();
});

test('the build-up goes from the first layer to the whole picture; what is seen up to a layer is never handed off', async () => {
	const engine = open([washLayer('w', 'W', '#334455'), ...stack().slice(1)]);
	for (const [i, layer] of ['a', 'b', 'c'].entries()) noise(engine, layer, i + 20);
	const steps: { readonly name: string; readonly data: Buffer }[] = [];
	engine.buildUp('s', ({ data }, name) => steps.push({ name, data: Buffer.from(data) }));
	expect(steps.map((each) => each.name)).toEqual(['W', 'Coats', 'C']);
	const step = (i: number): Buffer => (steps[i] as (typeof steps)[0]).data;
	expect([...step(0).subarray(0, 4)]).toEqual([0x33, 0x44, 0x55, 255]);
	const whole = pictured(engine);
	expect(Buffer.compare(step(2), whole)).toBe(0);
	const out = kernels.heap.alloc(16384);
	const shown = (): Buffer => {
		engine.compositeTile('s', 0, out);
		return Buffer.from(kernels.heap.u8.slice(out, out + 256));
	};
	engine.look('s', { upTo: 2 });
	expect(Buffer.compare(shown(), step(1).subarray(0, 256))).toBe(0);
	expect(Buffer.compare(pictured(engine), whole)).toBe(0);
	engine.look('s', null);
	expect(Buffer.compare(shown(), whole.subarray(0, 256))).toBe(0);
	const png = pictureAsPng(await loadPngWriter(), buildUpPicture(engine, 's'));
	expect([...png.subarray(1, 4)]).toEqual([80, 78, 71]);
	expect(gridOf(3)).toEqual({ columns: 2, rows: 2 });
	engine.close();
});
