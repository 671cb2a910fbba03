/** What a view shows, drawn from nothing but what it is told to draw anew, is what the document holds. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { deflateSync } from 'fflate';
import {
	adjustLayer,
	CommandError,
	eachLayer,
	groupLayer,
	type Layer,
	type LayerChange,
	paintLayer,
	washLayer,
} from '../src/document/index.ts';
import {
	type Dirty,
	type Edited,
	type Engine,
	type KeptStep,
	type KeptTile,
	type MaskChange,
	openEngine,
	type StoredTile,
	type StrokeSpec,
} from '../src/engine/index.ts';
import { homeCamera } from '../src/projection/index.ts';
import { defaultTip, type Tool } from '../src/stroke/index.ts';
import { tileIntoPicture } from '../src/surface/index.ts';
import { box, projectOf } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});
const SIDE = 192;
const mask = (id: string) => ({ surface: `${id}-m`, on: true });
const stack: readonly Layer[] = [
	washLayer('tin', 'Tin', '#c0c0c0'),
	paintLayer('primer', 'Primer', { mask: mask('primer'), coat: { depth: 0.5, falloff: 0.2 } }),
	paintLayer('tint', 'Tint', { clip: true, mode: 'multiply' }),
	paintLayer('black', 'Black', { mask: mask('black'), coat: { depth: 0.3, falloff: 0.4 } }),
	groupLayer('wear', 'Wear', [
		paintLayer('dust', 'Dust', { mode: 'screen', opacity: 0.7 }),
		washLayer('rust', 'Rust', '#a04010', { mask: mask('rust'), mode: 'overlay' }),
	]),
	adjustLayer('tone', 'Tone', { op: 'contrast', brightness: 0.1, contrast: 0.2 }),
	paintLayer('light', 'Light', { mode: 'soft-light' }),
];

/** A view: it draws a tile when it is told of it, and at no other time. */
interface View {
	readonly data: Uint8Array;
	draw(dirty: Dirty): void;
}

function viewOf(engine: Engine): View {
	const data = new Uint8Array(SIDE * SIDE * 4);
	const out = kernels.heap.alloc(16384);
	const view: View = {
		data,
		draw(dirty) {
			for (const tile of dirty.get('s') ?? []) {
				engine.compositeTile('s', tile, out);
				tileIntoPicture(kernels.heap.u8.slice(out, out + 16384), { width: SIDE, height: SIDE, data }, tile);
			}
		},
	};
	view.draw(new Map([['s', Array.from({ length: 9 }, (_, i) => i)]]));
	return view;
}

const place = fc.tuple(fc.integer({ min: 0, max: SIDE }), fc.integer({ min: 0, max: SIDE }));
const layer = fc.constantFrom('primer', 'tint', 'black', 'dust', 'light');
const any = fc.constantFrom('tin', 'primer', 'tint', 'black', 'wear', 'dust', 'rust', 'tone', 'light');
const masked = fc.constantFrom('primer', 'black', 'rust');
/** Plain data, so that a counterexample can be read. */
type Act =
	| {
			readonly do: 'stroke';
			readonly tool: Tool;
			readonly layer: string;
			readonly at: readonly (readonly [number, number])[];
	  }
	| {
			readonly do: 'mask stroke';
			readonly layer: string;
			readonly color: string;
			readonly at: readonly (readonly [number, number])[];
	  }
	| { readonly do: 'model stroke'; readonly layer: string; readonly x: number }
	| { readonly do: 'flood'; readonly layer: string; readonly at: readonly [number, number] }
	| { readonly do: 'change'; readonly layer: string; readonly change: LayerChange }
	| { readonly do: 'mask'; readonly layer: string; readonly change: MaskChange }
	| { readonly do: 'remove' | 'merge' | 'fill all'; readonly layer: string }
	| { readonly do: 'select'; readonly at: readonly [number, number] }
	| { readonly do: 'flatten' | 'undo' | 'redo' };

const at = (minLength: number, maxLength: number) => fc.array(place, { minLength, maxLength });
const is = <T extends string>(value: T) => fc.constant(value);
const act: fc.Arbitrary<Act> = fc.oneof(
	{
		weight: 5,
		arbitrary: fc.record({
			do: is('stroke'),
			tool: fc.constantFrom<Tool>('draw', 'wipe', 'soften', 'smear', 'darken'),
			layer,
			at: at(1, 4),
		}),
	},
	{
		weight: 4,
		arbitrary: fc.record({ do: is('stroke'), tool: fc.constantFrom<Tool>('scrape', 'mend'), layer, at: at(2, 4) }),
	},
	{
		weight: 2,
		arbitrary: fc.record({
			do: is('mask stroke'),
			layer: masked,
			color: fc.constantFrom('#000000', '#ffffff'),
			at: at(1, 3),
		}),
	},
	{ weight: 2, arbitrary: fc.record({ do: is('model stroke'), layer, x: fc.integer({ min: 60, max: 200 }) }) },
	fc.record({ do: is('flood'), layer, at: place }),
	fc.record({
		do: is('change'),
		layer: any,
		change: fc.constantFrom<LayerChange>(
			{ opacity: 0.4 },
			{ mode: 'darken' },
			{ shown: false },
			{ shown: true },
			{ clip: true },
			{ clip: false },
		),
	}),
	fc.record({
		do: is('mask'),
		layer: masked,
		change: fc.constantFrom<MaskChange>({ to: 'inverse' }, { to: 'value', value: 255 }),
	}),
	fc.record({ do: fc.constantFrom('remove' as const, 'merge' as const, 'fill all' as const), layer: any }),
	fc.record({ do: is('select'), at: place }),
	fc.record({ do: is('flatten') }),
	{ weight: 4, arbitrary: fc.record({ do: is('undo') }) },
	{ weight: 2, arbitrary: fc.record({ do: is('redo') }) },
);

/** Does an act as the studio does it, and draws what it is told to. */
function play(engine: Engine, view: View, act: Act, n: number): void {
	const stroke = (tool: Tool, places: readonly (readonly [number, number])[], change: Partial<StrokeSpec>): void => {
		const [first, ...rest] = places.map(([x, y]) => ({ x, y, pressure: 1 }));
		const begun = engine.begin(
			{
				tool,
				tip: { ...defaultTip, size: 40, edge: 0.5 },
				color: '#d07020',
				place: { on: 'sheet', sheet: 's' },
				layers: {},
				...change,
			},
			first ? [first] : [],
		);
		if (!begun.ok) return;
		view.draw(begun.dirty);
		for (const sample of rest) view.draw(engine.extend([sample]));
		view.draw(engine.end());
	};
	const maybe = (result: Edited): void => (result.ok ? view.draw(result.dirty) : undefined);
	switch (act.do) {
		case 'stroke':
			return stroke(act.tool, act.at, { layers: { s: act.layer } });
		case 'mask stroke':
			return stroke('draw', act.at, { layers: { s: act.layer }, onMask: true, color: act.color });
		case 'model stroke': {
			const sight = { camera: { ...homeCamera, distance: 6 }, width: 260, height: 260 };
			const run = [
				[act.x, 100],
				[act.x + 40, 140],
			] as const;
			return stroke('draw', run, { layers: { s: act.layer }, place: { on: 'model', model: 'm', sight, sheet: 's' } });
		}
		case 'flood':
			return maybe(engine.fill('s', act.layer, act.at[0], act.at[1], '#3060a0'));
		case 'change':
			return view.draw(engine.run({ do: 'layer.change', sheet: 's', layer: act.layer, change: act.change }));
		case 'mask':
			return view.draw(engine.changeMask('s', act.layer, act.change));
		case 'remove':
			return view.draw(engine.run({ do: 'layer.remove', sheet: 's', layer: act.layer }));
		case 'merge':
			return view.draw(engine.mergeDown('s', act.layer, `merged-${n}`));
		case 'fill all':
			return maybe(engine.edit('s', act.layer, { do: 'fill', color: '#aa2244' }));
		case 'select': {
			const [x, y] = act.at;
			return maybe(
				engine.select(
					's',
					{ by: 'shape', shape: { kind: 'rectangle', x, y, width: 80, height: 60, radius: 0 } },
					'replace',
				),
			);
		}
		case 'flatten':
			return view.draw(engine.flatten('s', 'wear', `flat-${n}`));
		case 'undo':
		case 'redo':
			return view.draw((act.do === 'undo' ? engine.undo() : engine.redo())?.dirty ?? new Map());
	}
}

const mesh = box();
const meshes = new Map([['m', mesh]]);

/** An engine after some acts; `draw` is told what shows. */
function played(acts: readonly Act[], viewFor: (engine: Engine) => View): Engine {
	const engine = openEngine(kernels, projectOf(mesh, SIDE, stack), [], meshes);
	for (const id of ['primer', 'black', 'rust']) engine.changeMask('s', id, { to: 'value', value: 255 });
	for (const [id, color] of [
		['primer', '#b03020'],
		['black', '#202020'],
	] as const)
		engine.edit('s', id, { do: 'fill', color });
	const view = viewFor(engine);
	acts.forEach((each, n) => {
		try {
			play(engine, view, each, n);
		} catch (error) {
			if (!(error instanceof CommandError)) throw error;
		}
		view.draw(engine.refresh(() => false));
	});
	return engine;
}

/** Whether all that a view shows after some acts is the document's, opened anew. */
function showsItself(acts: readonly Act[]): boolean {
	let view: View | null = null;
	const engine = played(acts, (of) => (view = viewOf(of)));
	const { project, tiles } = engine.whole();
	const anew = openEngine(kernels, project, tiles, meshes);
	const fits = Buffer.compare(anew.composite('s').data, (view as View | null)?.data ?? new Uint8Array(0)) === 0;
	// What would be kept step by step is the same, too.
	expect([...eachLayer(anew.project.sheets[0]?.layers ?? [])].length).toBe(
		[...eachLayer(project.sheets[0]?.layers ?? [])].length,
	);
	anew.close();
	engine.close();
	return fits;
}

test('tiles that a smear only reached are shown as they are once it has ended', () => {
	expect(
		showsItself([
			{ do: 'mask', layer: 'black', change: { to: 'inverse' } },
			{
				do: 'stroke',
				tool: 'wipe',
				layer: 'primer',
				at: [
					[0, 119],
					[0, 0],
				],
			},
			{
				do: 'stroke',
				tool: 'smear',
				layer: 'tint',
				at: [
					[0, 111],
					[56, 70],
				],
			},
		]),
	).toBe(true);
});

test('after any strokes, edits, scrapes, masks, undo and redo every tile shown is the document’s, opened anew', () => {
	fc.assert(fc.property(fc.array(act, { minLength: 1, maxLength: 14 }), showsItself), {
		numRuns: process.env.LONG ? 1500 : 120,
	});
});

/** A step as it lies in the browser's store. */
const stored = (step: KeptStep): KeptStep<StoredTile> => {
	const pressed = ({ texels, count = 1, ...tile }: KeptTile): StoredTile => ({
		...tile,
		count,
		blob: texels && deflateSync(texels),
	});
	return structuredClone({
		...step,
		tiles: step.tiles.map(pressed),
		surfaces: step.surfaces.map((each) => ({ ...each, tiles: each.tiles.map(pressed) })),
	});
};

test('steps that were packed are undone at a later visit as they would have been at this one', () => {
	const undoesAlike = (acts: readonly Act[], press: boolean): boolean => {
		const engine = played(acts, () => ({ data: new Uint8Array(0), draw: () => undefined }));
		// What was undone does not go along.
		engine.history.cut();
		if (press) while (engine.history.tidy());
		const packed = engine.history.done.map((step) => stored(engine.packStep(step)));
		const { project, tiles } = engine.whole();
		const later = openEngine(kernels, project, tiles, meshes);
		const fits = [later.recallSteps(packed).length === packed.length];
		while (engine.undo()) {
			fits.push(later.undo() !== null);
			fits.push(Buffer.compare(engine.composite('s').data, later.composite('s').data) === 0);
		}
		fits.push(later.undo() === null);
		while (engine.redo()) later.redo();
		fits.push(Buffer.compare(engine.composite('s').data, later.composite('s').data) === 0);
		later.close();
		engine.close();
		return fits.every(Boolean);
	};
	fc.assert(fc.property(fc.array(act, { minLength: 1, maxLength: 24 }), fc.boolean(), undoesAlike), {
		numRuns: process.env.LONG ? 600 : 40,
	});
});

test('a step whose surface is not here ends what can be taken back, and the rest goes on', () => {
	const engine = played([], viewOf);
	for (const color of ['#ff0000', '#00ff00', '#0000ff']) engine.edit('s', 'light', { do: 'fill', color });
	const packed = engine.history.done.map((step) => stored(engine.packStep(step)));
	const { project, tiles } = engine.whole();
	const later = openEngine(kernels, project, tiles, meshes);
	const at = packed.length - 2;
	const lost = { ...(packed[at] as KeptStep<StoredTile>), surfaces: [] };
	const broken = { ...lost, tiles: lost.tiles.map((tile) => ({ ...tile, surface: 'gone' })) };
	expect(later.recallSteps([...packed.slice(0, at), broken, ...packed.slice(at + 1)])).toHaveLength(1);
	expect(later.undo()?.words).toBe(engine.undo()?.words);
	expect(later.undo()).toBeNull();
	later.close();
	engine.close();
});

test('what a step took away is back after it is undone, also where a forgotten step named it too', () => {
	const engine = openEngine(kernels, projectOf(mesh, SIDE, stack), [], meshes);
	engine.edit('s', 'dust', { do: 'fill', color: '#d07020' });
	const before = Buffer.from(engine.composite('s').data);
	engine.flatten('s', 'wear', 'flat-1');
	engine.undo();
	engine.flatten('s', 'wear', 'flat-2');
	engine.undo();
	expect(Buffer.compare(engine.composite('s').data, before)).toBe(0);
	engine.close();
});
