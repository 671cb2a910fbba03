/** Layers that are more than pixels: what refuses paint and how that is mended, sources of recipes, stitches, what becomes pixels. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import {
	adjustLayer,
	groupLayer,
	type Layer,
	layerOf,
	paintLayer,
	projectProblem,
	textLayer,
	washLayer,
} from '../src/document/index.ts';
import { type Engine, openEngine, type StrokeSpec } from '../src/engine/index.ts';
import { newFinish } from '../src/finish/index.ts';
import { contourOf } from '../src/raster/index.ts';
import { newStep, type RecipeStep, type StepName } from '../src/recipe/index.ts';
import { defaultTip, shippedStencilPicture, unruled } from '../src/stroke/index.ts';
import { pictureOfSurface, type Surface } from '../src/surface/index.ts';
import { fontNames, type Text } from '../src/text/index.ts';
import { box, projectOf } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const SIDE = 128;
const mesh = box();
const open = (layers: readonly Layer[]): Engine =>
	openEngine(kernels, projectOf(mesh, SIDE, layers), [], new Map([['m', mesh]]));
const picture = (engine: Engine): Buffer => Buffer.from(engine.composite('s').data);
const step = (name: StepName, change: object = {}): RecipeStep => ({ ...newStep(name, name), ...change }) as RecipeStep;
const finish = (name: Parameters<typeof newFinish>[0], change: object = {}): ReturnType<typeof newFinish> =>
	({ ...newFinish(name, name), ...change }) as ReturnType<typeof newFinish>;
const text: Text = {
	text: 'Rue',
	font: 'brush',
	size: 50,
	color: '#204060',
	spacing: 0,
	leading: 1,
	align: 'left',
	box: null,
	x: 64,
	y: 64,
	turn: 0,
	mirrored: false,
	along: null,
};
const maskOf = (engine: Engine, layer: string): Uint8Array => {
	engine.refresh(() => false);
	return pictureOfSurface(kernels, engine.surface(`${layer}~mask`) as Surface).data;
};
const ellipse = (engine: Engine, layer: string, color: string, [x, y, width, height]: readonly number[]): void => {
	const shape = { kind: 'ellipse', x, y, width, height } as {
		kind: 'ellipse';
		x: number;
		y: number;
		width: number;
		height: number;
	};
	const done = engine.edit('s', layer, { do: 'shape', shape, outline: null, repeat: null, color });
	if (!done.ok) throw new Error(done.refusal.text);
};
const far = (a: Buffer, b: Buffer): number => {
	let worst = 0;
	for (let i = 0; i < a.length; i += 4)
		for (let k = 0; k < 4; k++) {
			const [p, q] = k === 3 ? [1, 1] : [(a[i + 3] as number) / 255, (b[i + 3] as number) / 255];
			worst = Math.max(worst, Math.abs((a[i + k] as number) * p - (b[i + k] as number) * q));
		}
	return worst;
};

describe('paint that cannot land', () => {
	const begin = (engine: Engine, layer: string, onMask = false) => {
		const spec: StrokeSpec = {
			tool: 'draw',
			tip: { ...defaultTip, ...unruled },
			color: '#ff0000',
			place: { on: 'sheet', sheet: 's' },
			layers: { s: layer },
			onMask,
		};
		const begun = engine.begin(spec, [{ x: 20, y: 20, pressure: 1 }]);
		engine.cancel();
		return begun;
	};
	test('on lettering a layer above is offered', () => {
		const engine = open([textLayer('t', 'Sign', text)]);
		expect(begin(engine, 't')).toMatchObject({
			ok: false,
			refusal: { code: 'no-pixels', mend: { label: 'Add a layer above' } },
		});
		engine.close();
	});
	test('on a mask made by its recipe a step for painting is offered, and with it paint lands', () => {
		const mask = { surface: 'w-m', on: true, recipe: [step('clouds', { mix: 'replace' })] };
		const engine = open([washLayer('w', 'W', '#00ff00', { mask })]);
		const begun = begin(engine, 'w', true);
		if (begun.ok || !begun.refusal.mend || !('command' in begun.refusal.mend)) throw new Error('not refused');
		expect(begun.refusal).toMatchObject({ code: 'computed', mend: { label: 'Add that step' } });
		engine.run(begun.refusal.mend.command);
		expect(begin(engine, 'w', true).ok).toBe(true);
		expect(projectProblem(engine.project)).toBeNull();
		engine.close();
	});
	test('on what is not looked at the reason is said; what is looked at takes paint', () => {
		const engine = open([paintLayer('a', 'A'), groupLayer('g', 'G', [paintLayer('b', 'B')]), paintLayer('c', 'C')]);
		engine.look('s', { layer: 'g', on: 'layer' });
		expect(begin(engine, 'b').ok).toBe(true);
		expect(begin(engine, 'a')).toMatchObject({
			ok: false,
			refusal: { text: expect.stringMatching(/only "G" is shown/), mend: { lookWhole: 's' } },
		});
		engine.look('s', { upTo: 2 });
		expect([begin(engine, 'a').ok, begin(engine, 'b').ok, begin(engine, 'c').ok]).toEqual([true, true, false]);
		engine.look('s', null);
		expect(begin(engine, 'c').ok).toBe(true);
		engine.close();
	});
	test('on hidden coats the first is shown and unlocked', () => {
		const engine = open([
			washLayer('c', 'C', '#ffffff', {
				shown: false,
				mask: { surface: 'c-m', on: true },
				coat: { depth: 0.5, falloff: 0 },
			}),
		]);
		const spec = {
			tool: 'scrape',
			tip: defaultTip,
			color: '#000000',
			place: { on: 'sheet', sheet: 's' },
			layers: {},
		} as const;
		const begun = engine.begin(spec, [{ x: 20, y: 20, pressure: 1 }]);
		if (begun.ok || !begun.refusal.mend || !('command' in begun.refusal.mend)) throw new Error('not refused');
		engine.run(begun.refusal.mend.command);
		expect(engine.begin(spec, [{ x: 20, y: 20, pressure: 1 }]).ok).toBe(true);
		engine.cancel();
		engine.close();
	});
});

describe('sources of recipes', () => {
	const of = (steps: readonly RecipeStep[]): Layer =>
		washLayer('w', 'W', '#ffffff', { mask: { surface: 'w-m', on: true, recipe: steps } });
	test('painted is the mask as it is painted, and follows it', () => {
		const engine = open([of([step('painted', { mix: 'replace' })])]);
		engine.changeMask('s', 'w', { to: 'value', value: 77 });
		expect(maskOf(engine, 'w').every((v) => v === 77)).toBe(true);
		engine.changeMask('s', 'w', { to: 'inverse' });
		expect(maskOf(engine, 'w').every((v) => v === 178)).toBe(true);
		engine.undo();
		expect(maskOf(engine, 'w').every((v) => v === 77)).toBe(true);
		engine.close();
	});
	test('taps read tone, shape and mask of another layer, live; a layer that is gone does nothing', () => {
		for (const [tapped, want] of [
			['tone', 128],
			['shape', 255],
			['mask', 99],
		] as const) {
			const engine = open([
				washLayer('o', 'O', '#808080', { mask: { surface: 'o-m', on: tapped === 'mask' } }),
				of([step('tap', { layer: 'o', of: tapped, mix: 'replace' })]),
			]);
			engine.changeMask('s', 'o', { to: 'value', value: 99 });
			expect(maskOf(engine, 'w')[500]).toBe(want);
			engine.run({ do: 'layer.remove', sheet: 's', layer: 'o' });
			expect(maskOf(engine, 'w')[500]).toBe(255);
			engine.undo();
			expect(maskOf(engine, 'w')[500]).toBe(want);
			engine.close();
		}
	});
	test('a tone range takes what lies between, where there is paint', () => {
		const engine = open([
			paintLayer('p', 'P'),
			of([step('tones', { layer: 'p', low: 0.4, high: 0.6, soft: 0, mix: 'replace' })]),
		]);
		ellipse(engine, 'p', '#808080', [10, 10, 40, 40]);
		ellipse(engine, 'p', '#f0f0f0', [70, 70, 40, 40]);
		const mask = maskOf(engine, 'w');
		expect([mask[30 * SIDE + 30], mask[90 * SIDE + 90], mask[60 * SIDE + 10]]).toEqual([255, 0, 0]);
		engine.close();
	});
	test('a picture repeats in its size; a tone for each piece is one for each, and the same at each visit', () => {
		const engine = open([of([step('picture', { picture: 'boards', scale: 32, mix: 'replace' })])]);
		const mask = maskOf(engine, 'w');
		for (let i = 0; i < 32 * SIDE; i++) if (mask[i] !== mask[i + 32 * SIDE]) throw new Error('does not repeat');
		expect(new Set(mask).size).toBeGreaterThan(10);
		const pieces = [step('pieces', { by: 'island', mix: 'replace' })];
		engine.run({
			do: 'layer.change',
			sheet: 's',
			layer: 'w',
			change: { mask: { surface: 'w-m', on: true, recipe: pieces } },
		});
		const tones = maskOf(engine, 'w');
		const scene = engine.scene('m');
		const sheet = engine.project.sheets[0];
		if (!scene || !sheet) throw new Error('no scene');
		const seen = new Map<number, Set<number>>();
		for (let y = 0; y < SIDE; y += 2)
			for (let x = 0; x < SIDE; x += 2) {
				const spot = scene.spotOn(sheet, null, x + 0.5, y + 0.5);
				if (!spot) continue;
				const set = seen.get(spot.island) ?? new Set();
				seen.set(spot.island, set.add(tones[y * SIDE + x] as number));
			}
		expect([...seen.values()].map((set) => set.size)).toEqual([1, 1, 1, 1, 1, 1]);
		expect(new Set([...seen.values()].map((set) => [...set][0])).size).toBeGreaterThan(4);
		const again = open([of(pieces)]);
		expect(Buffer.compare(Buffer.from(maskOf(again, 'w')), Buffer.from(tones))).toBe(0);
		again.close();
		engine.close();
	});
});

test('a picture of the artist’s own that comes later is taken in by fills and recipes', () => {
	const id = `own-${Math.random().toString(36).slice(2)}`;
	const fill = { fill: 'picture', picture: id, scale: 4, turn: 0, x: 0, y: 0, tint: null } as const;
	const recipe = [step('picture', { picture: id, scale: 4, mix: 'replace' })];
	const engine = open([
		washLayer('f', 'F', '#000000', { fill }),
		washLayer('r', 'R', '#ffffff', { mask: { surface: 'r-m', on: true, recipe } }),
	]);
	engine.composite('s');
	expect([engine.sample('s', 10, 10)[3], maskOf(engine, 'r')[0]]).toEqual([255, 255]);
	const data = Uint8Array.from({ length: 4 * 4 * 4 }, (_, i) => (i % 4 === 3 ? 255 : 40));
	engine.pictures.put(id, { width: 4, height: 4, data });
	engine.renew();
	expect(maskOf(engine, 'r')[0]).toBe(40);
	engine.run({ do: 'layer.change', sheet: 's', layer: 'r', change: { shown: false } });
	engine.composite('s');
	expect(engine.sample('s', 10, 10)).toEqual([40, 40, 40, 255]);
	engine.close();
});

test('stitches follow lines taken from a selection, whatever is selected later', () => {
	const engine = open([paintLayer('p', 'P')]);
	engine.select(
		's',
		{ by: 'shape', shape: { kind: 'rectangle', x: 24, y: 24, width: 80, height: 80, radius: 0 } },
		'replace',
	);
	const lines = engine.selectionLines('s').map((line) => [...line]);
	const along = finish('stitch', {
		along: { lines },
		inset: 0,
		dash: 8,
		gap: 8,
		thick: 4,
		shade: 0,
		twist: 0,
		color: '#000000',
	});
	engine.run({ do: 'layer.change', sheet: 's', layer: 'p', change: { finishes: [along] } });
	expect(projectProblem(engine.project)).toBeNull();
	engine.changeSelection('s', { to: 'none' });
	const { data } = engine.composite('s');
	const inked = Uint8Array.from({ length: SIDE * SIDE }, (_, i) => data[i * 4 + 3] as number);
	// 320 texels around, less what rounding takes off the corners; a stitch for each 16.
	expect([19, 20]).toContain(contourOf(inked, SIDE, SIDE).length);
	for (let i = 0; i < inked.length; i++) {
		const [x, y] = [(i % SIDE) + 0.5 - 64, Math.floor(i / SIDE) + 0.5 - 64];
		if ((inked[i] as number) > 128 && Math.abs(Math.max(Math.abs(x), Math.abs(y)) - 40) > 4)
			throw new Error(`off the line at ${x} ${y}`);
	}
	engine.close();
});

test('a flood lays colour on joined texels of like colour only, of all layers, within what is selected', () => {
	const engine = open([washLayer('w', 'W', '#404040'), paintLayer('a', 'A'), paintLayer('p', 'P')]);
	ellipse(engine, 'a', '#c0c0c0', [20, 20, 50, 50]);
	const flood = (): unknown => engine.edit('s', 'p', { do: 'flood', color: '#ff0000', x: 45, y: 45, reach: 20 });
	flood();
	expect(engine.sample('s', 45, 45).slice(0, 3)).toEqual([255, 0, 0]);
	expect(engine.sample('s', 100, 100)[0]).toBe(64);
	engine.undo();
	engine.select(
		's',
		{ by: 'shape', shape: { kind: 'rectangle', x: 0, y: 0, width: 45, height: 128, radius: 0 } },
		'replace',
	);
	flood();
	expect([engine.sample('s', 40, 45)[0], engine.sample('s', 55, 45)[0]]).toEqual([255, 192]);
	engine.close();
});

test('a wash of a repeated picture shows the picture: a texel for each of its own at its own size', () => {
	const shingles = shippedStencilPicture('shingles');
	if (!shingles) throw new Error('no shingles');
	const fill = {
		fill: 'picture',
		picture: 'shingles',
		scale: shingles.height,
		turn: 0,
		x: 0,
		y: 0,
		tint: null,
	} as const;
	const engine = open([washLayer('w', 'W', '#000000', { fill })]);
	const { data } = engine.composite('s');
	let worst = 0;
	for (let y = 0; y < SIDE; y++)
		for (let x = 0; x < SIDE; x++)
			for (let k = 0; k < 3; k++)
				worst = Math.max(
					worst,
					Math.abs(
						(data[(y * SIDE + x) * 4 + k] as number) - (shingles.rgba[(y * shingles.width + x) * 4 + k] as number),
					),
				);
	expect(worst).toBeLessThanOrEqual(1);
	// Filling it goes back to one colour.
	engine.fill('s', 'w', 5, 5, '#123456');
	expect(engine.sample('s', 50, 50)).toEqual([0x12, 0x34, 0x56, 255]);
	engine.undo();
	expect(Buffer.compare(picture(engine), Buffer.from(data))).toBe(0);
	engine.close();
});

test('what becomes pixels looks as before: a finished group flattened, lettering and a finished layer merged down', () => {
	const layers = (): Layer[] => [
		washLayer('w', 'W', '#8899aa'),
		groupLayer('g', 'G', [paintLayer('a', 'A'), textLayer('t', 'T', text)], {
			isolated: true,
			opacity: 0.8,
			mask: { surface: 'g-m', on: true },
			finishes: [finish('outline', { width: 5 }), finish('stitch', { inset: 3 })],
		}),
	];
	const engine = open(layers());
	ellipse(engine, 'a', '#c05030', [30, 40, 70, 50]);
	const before = picture(engine);
	engine.flatten('s', 'g', 'flat');
	expect(far(picture(engine), before)).toBeLessThanOrEqual(2);
	expect(layerOf(engine.project.sheets[0], 'flat')?.kind).toBe('paint');
	engine.undo();
	expect(Buffer.compare(picture(engine), before)).toBe(0);
	engine.mergeDown('s', 'g', 'merged');
	expect(engine.project.sheets[0]?.layers).toHaveLength(1);
	expect(far(picture(engine), before)).toBeLessThanOrEqual(2);
	engine.close();
});

test('any layer that the screen can make passes the schema, as JSON and back', () => {
	const hex = fc.constantFrom('#000000', '#12ab9f', '#ffffff');
	const share = fc.double({ min: 0, max: 1, noNaN: true });
	const steps: readonly StepName[] = [
		'tone',
		'painted',
		'tap',
		'tones',
		'noise',
		'clouds',
		'speckle',
		'scratches',
		'drips',
		'streaks',
		'strokes',
		'pieces',
		'height',
		'facing',
		'edges',
		'picture',
		'levels',
		'invert',
		'blur',
		'smudge',
		'warp',
		'grow',
	];
	const recipe = fc
		.uniqueArray(fc.constantFrom(...steps), { maxLength: 8 })
		.map((names) => names.map((name) => newStep(name, name)));
	const finishes = fc
		.uniqueArray(fc.constantFrom('outline', 'tint', 'pattern', 'stitch'), { maxLength: 4 })
		.map((names) => names.map((name) => newFinish(name as 'outline', name)));
	const base = fc.record({
		opacity: share,
		mask: fc.option(recipe.map((list) => ({ surface: 'm', on: true, recipe: list }))),
		finishes,
		coat: fc.option(fc.record({ depth: fc.constantFrom(0.01, 0.5, 1), falloff: share })),
	});
	const layer = fc.oneof(
		base.map((with_) => paintLayer('x', 'X', with_)),
		fc.tuple(base, hex).map(([with_, color]) =>
			washLayer('x', 'X', color, {
				...with_,
				fill: { fill: 'gradient', way: 'angle', from: [0, 0], to: [9, 4], colors: [color], fade: true },
			}),
		),
		fc
			.tuple(base, hex, fc.constantFrom(...fontNames), fc.string({ maxLength: 40 }))
			.map(([with_, color, font, words]) =>
				textLayer('x', 'X', { ...text, color, font: font.name, text: words }, with_),
			),
		fc
			.constantFrom(
				{ op: 'blur', radius: 3 } as const,
				{ op: 'smudge', length: 9, turn: 45 } as const,
				{ op: 'sharpen', amount: 1, radius: 2 } as const,
			)
			.map((tone) => adjustLayer('x', 'X', tone)),
	);
	fc.assert(
		fc.property(layer, (each) => {
			const project = JSON.parse(
				JSON.stringify({
					...projectOf(mesh, SIDE, [each]),
					sheets: projectOf(mesh, SIDE, [each]).sheets.map((sheet) => ({ ...sheet, selection: 's-sel' })),
				}),
			);
			return projectProblem(project) === null;
		}),
	);
});

// Within one island of the box, so that no seam is near.
describe('strokes on masks', () => {
	const masked = (): Engine => {
		const engine = open([washLayer('w', 'W', '#ffffff', { mask: { surface: 'w-m', on: true } })]);
		const data = Uint8Array.from({ length: SIDE * SIDE }, (_, i) => (i % SIDE < 64 ? 80 : 200));
		engine.lay('s', 'w', 'mask', { width: SIDE, height: SIDE, data }, 'Two tones');
		return engine;
	};
	const stroke = (engine: Engine, tool: StrokeSpec['tool'], amount = 1) => {
		const begun = engine.begin(
			{
				tool,
				tip: { ...defaultTip, ...unruled, size: 24, strength: 1, edge: 1 },
				color: '#ffffff',
				place: { on: 'sheet', sheet: 's' },
				layers: { s: 'w' },
				onMask: true,
				amount,
			},
			[
				{ x: 50, y: 24, pressure: 1 },
				{ x: 76, y: 24, pressure: 1 },
			],
		);
		engine.end();
		return begun;
	};
	const along = (engine: Engine, x: number): number =>
		pictureOfSurface(kernels, engine.surface('w-m') as Surface).data[24 * SIDE + x] as number;
	test('softening runs the tones together where the brush went, and only there', () => {
		const engine = masked();
		expect(stroke(engine, 'soften').ok).toBe(true);
		const row = Array.from({ length: 16 }, (_, i) => along(engine, 56 + i));
		expect(row.every((v, i) => i === 0 || v >= (row[i - 1] as number))).toBe(true);
		expect([row.at(0), row.at(-1)].map((v) => Math.round((v as number) / 10))).toEqual([8, 20]);
		expect(Math.abs((row[7] as number) + (row[8] as number) - 280)).toBeLessThanOrEqual(4);
		const far = pictureOfSurface(kernels, engine.surface('w-m') as Surface).data;
		expect([far[100 * SIDE + 63], far[100 * SIDE + 64]]).toEqual([80, 200]);
		engine.close();
	});
	test('contrast and saturating draw the tones apart, or together below 0; a turn of hue moves them up or down', () => {
		const engine = masked();
		stroke(engine, 'contrast', 1);
		expect(along(engine, 55)).toBeLessThan(75);
		expect(along(engine, 72)).toBeGreaterThan(205);
		engine.undo();
		stroke(engine, 'contrast', -1);
		expect(along(engine, 55)).toBeGreaterThan(85);
		engine.undo();
		stroke(engine, 'saturate', 1);
		expect([along(engine, 55) < 75, along(engine, 72) > 205]).toEqual([true, true]);
		engine.undo();
		stroke(engine, 'hue', 0.5);
		expect([along(engine, 55) > 85, along(engine, 72) > 205]).toEqual([true, true]);
		engine.undo();
		stroke(engine, 'hue', -0.5);
		expect([along(engine, 55) < 75, along(engine, 72) < 190]).toEqual([true, true]);
		engine.undo();
		expect([along(engine, 55), along(engine, 72)]).toEqual([80, 200]);
		engine.close();
	});
	test('smearing pulls tones along just as it pulls opaque greys on a layer', () => {
		const engine = masked();
		const grey = paintLayer('g', 'Greys');
		engine.run({ do: 'layer.add', sheet: 's', layer: grey, at: 0 });
		const tones = pictureOfSurface(kernels, engine.surface('w-m') as Surface).data;
		const data = Uint8Array.from({ length: SIDE * SIDE * 4 }, (_, i) =>
			i % 4 === 3 ? 255 : (tones[i >> 2] as number),
		);
		engine.lay('s', 'g', 'color', { width: SIDE, height: SIDE, data }, 'Greys');
		for (const onMask of [true, false]) {
			const samples = [40, 58, 70, 90, 60].map((x, i) => ({ x, y: 24 + 3 * i, pressure: 1 }));
			const tip = { ...defaultTip, ...unruled, size: 26, strength: 0.8, edge: 0.5 };
			const place = { on: 'sheet', sheet: 's' } as const;
			const layers = { s: onMask ? 'w' : 'g' };
			engine.begin({ tool: 'smear', tip, color: '#ffffff', place, layers, onMask }, samples.slice(0, 1));
			engine.extend(samples.slice(1));
			engine.end();
		}
		const after = pictureOfSurface(kernels, engine.surface('w-m') as Surface).data;
		const greys = pictureOfSurface(kernels, engine.surface(grey.surface) as Surface).data;
		let [most, changed] = [0, 0];
		for (let i = 0; i < after.length; i++) {
			most = Math.max(most, Math.abs((after[i] as number) - (greys[i * 4] as number)));
			if (after[i] !== tones[i]) changed++;
		}
		expect(most).toBe(0);
		expect(changed).toBeGreaterThan(200);
		engine.undo();
		engine.undo();
		expect(Buffer.compare(pictureOfSurface(kernels, engine.surface('w-m') as Surface).data, tones)).toBe(0);
		engine.close();
	});
});

describe('a stroke over parts on two sheets', () => {
	const half = mesh.indices.length / 6;
	const split = {
		...mesh,
		parts: [
			{ name: 'One', firstFace: 0, faces: half },
			{ name: 'Two', firstFace: half, faces: mesh.indices.length / 3 - half },
		],
	};
	const engineOf = (second: 's' | 't', layers: readonly Layer[] = [paintLayer('q', 'Q')]): Engine => {
		const base = projectOf(split, SIDE);
		const [sheet] = base.sheets;
		const [model] = base.models;
		if (!sheet || !model) throw new Error('no sheet');
		return openEngine(
			kernels,
			{
				...base,
				sheets: [sheet, { ...sheet, id: 't', name: 'T', layers }],
				models: [{ ...model, parts: model.parts.map((part, i) => ({ ...part, sheet: i ? second : 's' })) }],
			},
			[],
			new Map([['m', split]]),
		);
	};
	const sight = {
		camera: { target: [0, 0, 0], yaw: 40, pitch: 25, roll: 0, distance: 8, fov: 35, parallel: false },
		width: 400,
		height: 400,
	} as const;
	const draw = (engine: Engine): void => {
		const begun = engine.begin(
			{
				tool: 'draw',
				tip: { ...defaultTip, ...unruled, size: 60, strength: 1 },
				color: '#ff8800',
				place: { on: 'model', model: 'm', sight },
				layers: { s: 'p', t: 'q' },
				seed: 5,
			},
			[{ x: 110, y: 170, pressure: 1 }],
		);
		if (!begun.ok) throw new Error(begun.refusal.text);
		for (let i = 1; i < 20; i++) engine.extend([{ x: 110 + i * 9, y: 170 + i * 4, pressure: 1 }]);
		engine.end();
	};
	const painted = (engine: Engine, sheet: string): Buffer => Buffer.from(engine.composite(sheet).data);
	test('lands on both, each texel as if both lay on one, and is one step', () => {
		const whole = engineOf('s');
		const apart = engineOf('t');
		draw(whole);
		draw(apart);
		const [one, s, t] = [painted(whole, 's'), painted(apart, 's'), painted(apart, 't')];
		const marks = (b: Buffer): number => b.filter((v, i) => i % 4 === 3 && v > 0).length;
		expect(marks(s)).toBeGreaterThan(50);
		expect(marks(t)).toBeGreaterThan(50);
		for (let i = 0; i < one.length; i += 4) {
			const both = (s[i + 3] as number) >= (t[i + 3] as number) ? s : t;
			if (one[i + 3] === 0 && both[i + 3] === 0) continue;
			if (one.readUInt32LE(i) !== both.readUInt32LE(i)) throw new Error(`unlike at texel ${i / 4}`);
		}
		expect(apart.history.done).toHaveLength(1);
		apart.undo();
		expect([marks(painted(apart, 's')), marks(painted(apart, 't'))]).toEqual([0, 0]);
		apart.redo();
		expect([Buffer.compare(painted(apart, 's'), s), Buffer.compare(painted(apart, 't'), t)]).toEqual([0, 0]);
		whole.close();
		apart.close();
	});
	test('a sheet whose layer is locked is left out, the other takes its part', () => {
		const engine = engineOf('t', [paintLayer('q', 'Q', { locked: true })]);
		draw(engine);
		expect(
			painted(engine, 's').some((v, i) => i % 4 === 3 && v > 0) !==
				painted(engine, 't').some((v, i) => i % 4 === 3 && v > 0),
		).toBe(true);
		engine.close();
	});
});
