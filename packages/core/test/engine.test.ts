import { createHash } from 'node:crypto';
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { smokerMesh } from '../../../demo/mesh/smoker.ts';
import { apiaryPalette } from '../src/color/index.ts';
import { blendModes } from '../src/composite/index.ts';
import {
	type Command,
	CommandError,
	desksProblem,
	emptyDesk,
	type LayerChange,
	type Project,
	paintLayer,
	projectProblem,
	washLayer,
} from '../src/document/index.ts';
import { shapes } from '../src/document/shapes.ts';
import { type Engine, type KeptTile, openEngine, type StrokeSpec } from '../src/engine/index.ts';
import type { LaidMesh } from '../src/mesh/index.ts';
import { homeCamera } from '../src/projection/index.ts';
import { defaultTip } from '../src/stroke/index.ts';
import { keepTiles } from './oracle/kept.ts';

let mesh: LaidMesh;
let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
	mesh = smokerMesh();
});

const project = (): Project => ({
	schema: 1,
	id: 'p',
	name: 'Test',
	palette: apiaryPalette,
	models: [
		{
			id: 'm',
			name: 'Can',
			asset: { hash: 'a'.repeat(64), name: 'can.glb' },
			parts: mesh.parts.map((part) => ({ name: part.name, sheet: part.name === 'Bellows' ? 'b' : 'a', shown: true })),
		},
	],
	sheets: [
		{
			id: 'a',
			name: 'A',
			width: 256,
			height: 256,
			bleed: 4,
			base: null,
			guide: null,
			layers: [
				washLayer('a0', 'Ground', '#8899aa'),
				paintLayer('a1', 'One'),
				paintLayer('a2', 'Two', { mode: 'multiply', mask: { surface: 'a2m', on: false } }),
				paintLayer('a3', 'Three', { clip: true, mode: 'overlay' }),
			],
		},
		{
			id: 'b',
			name: 'B',
			width: 128,
			height: 128,
			bleed: 4,
			base: '#445566',
			guide: null,
			layers: [paintLayer('b1', 'Only')],
		},
	],
});
const open = async (tiles: Iterable<KeptTile> = [], from = project()): Promise<Engine> =>
	openEngine(kernels, from, tiles, new Map([['m', mesh]]));

const sight = { camera: { ...homeCamera, distance: 5 }, width: 300, height: 300 };
const spec = (change: Partial<StrokeSpec> = {}): StrokeSpec => ({
	tool: 'draw',
	tip: { ...defaultTip, size: 24 },
	color: '#d0a030',
	place: { on: 'sheet', sheet: 'a' },
	layers: { a: 'a1', b: 'b1' },
	...change,
});

type Act =
	| {
			readonly kind: 'stroke';
			readonly layer: string;
			readonly on: 'sheet' | 'model';
			readonly points: readonly (readonly [number, number])[];
			readonly wipe: boolean;
	  }
	| { readonly kind: 'run'; readonly command: Command }
	| { readonly kind: 'fill'; readonly layer: string; readonly x: number; readonly y: number }
	| { readonly kind: 'undo' }
	| { readonly kind: 'redo' };

const layerId = fc.constantFrom('a0', 'a1', 'a2', 'a3');
const point = fc.tuple(fc.integer({ min: 0, max: 255 }), fc.integer({ min: 0, max: 255 }));
const act: fc.Arbitrary<Act> = fc.oneof(
	{
		weight: 4,
		arbitrary: fc.record({
			kind: fc.constant('stroke' as const),
			layer: layerId,
			on: fc.constantFrom('sheet' as const, 'model' as const),
			points: fc.array(point, { minLength: 1, maxLength: 4 }),
			wipe: fc.boolean(),
		}),
	},
	{
		weight: 1,
		arbitrary: fc.record({ kind: fc.constant('fill' as const), layer: layerId, x: fc.nat(255), y: fc.nat(255) }),
	},
	{ weight: 3, arbitrary: fc.record({ kind: fc.constant('undo' as const) }) },
	{ weight: 2, arbitrary: fc.record({ kind: fc.constant('redo' as const) }) },
	{
		weight: 3,
		arbitrary: fc
			.oneof(
				fc.record({
					do: fc.constant('layer.change' as const),
					sheet: fc.constant('a'),
					layer: layerId,
					change: fc.oneof(
						fc.record({ shown: fc.boolean() }),
						fc.record({ opacity: fc.double({ min: 0, max: 1, noNaN: true }) }),
						fc.record({ mode: fc.constantFrom(...blendModes) }),
						fc.record({ clip: fc.boolean() }),
					),
				}),
				fc.record({ do: fc.constant('layer.move' as const), sheet: fc.constant('a'), layer: layerId, to: fc.nat(4) }),
				fc.record({ do: fc.constant('layer.remove' as const), sheet: fc.constant('a'), layer: layerId }),
			)
			.map((command) => ({ kind: 'run' as const, command })),
	},
);

/** Does an act; what does not fit (a removed layer, say) must change nothing. */
function perform(engine: Engine, each: Act): void {
	if (each.kind === 'undo') engine.undo();
	else if (each.kind === 'redo') engine.redo();
	else if (each.kind === 'fill') engine.fill('a', each.layer, each.x, each.y, '#336699');
	else if (each.kind === 'run') {
		const before = engine.project;
		try {
			engine.run(each.command);
		} catch (error) {
			expect((error as Error).name).toBe('CommandError');
			expect(engine.project).toBe(before);
		}
	} else {
		const samples = each.points.map(([x, y]) => ({ x, y, pressure: 1 }));
		const begun = engine.begin(
			spec({
				tool: each.wipe ? 'wipe' : 'draw',
				layers: { a: each.layer, b: 'b1' },
				place: each.on === 'sheet' ? { on: 'sheet', sheet: 'a' } : { on: 'model', model: 'm', sight, sheet: 'a' },
			}),
			samples.slice(0, 1),
		);
		if (!begun.ok) return;
		engine.extend(samples.slice(1));
		engine.end();
	}
}

const look = (engine: Engine): string =>
	JSON.stringify(engine.project) +
	['a', 'b'].map((sheet) => createHash('sha256').update(engine.composite(sheet).data).digest('hex')).join();

test('whatever is done, undoing all goes back to the start and redoing all comes again', async () => {
	await fc.assert(
		fc.asyncProperty(fc.array(act, { minLength: 1, maxLength: 12 }), async (acts) => {
			const engine = await open();
			const start = look(engine);
			for (const each of acts) perform(engine, each);
			const end = look(engine);
			let steps = 0;
			while (engine.undo()) steps++;
			expect(look(engine)).toBe(start);
			for (let i = 0; i < steps; i++) engine.redo();
			// Steps undone while acting may still be redone beyond where the acts ended.
			if (acts.every((each) => each.kind !== 'undo')) expect(look(engine)).toBe(end);
			engine.close();
		}),
		{ numRuns: 15 },
	);
});

test('what deltas carry is all that a second visit needs', async () => {
	await fc.assert(
		fc.asyncProperty(fc.array(act, { minLength: 1, maxLength: 10 }), async (acts) => {
			const engine = await open();
			const kept = new Map<string, KeptTile>();
			let document = engine.project;
			const keep = (): void => {
				const delta = engine.takeDelta();
				if (delta) document = delta.project;
				keepTiles(kept, delta?.tiles ?? []);
			};
			for (const [i, each] of acts.entries()) {
				perform(engine, each);
				if (i % 2 === 0) keep();
			}
			keep();
			expect(engine.takeDelta()).toBeNull();
			const again = await open(kept.values(), document);
			expect(look(again)).toBe(look(engine));
			for (const each of [engine, again]) each.close();
		}),
		{ numRuns: 12 },
	);
});

test('the tiles that a change calls dirty are all that look otherwise', async () => {
	await fc.assert(
		fc.asyncProperty(
			fc.array(act, { minLength: 1, maxLength: 5 }),
			fc.record({
				layer: layerId,
				what: fc.constantFrom({ shown: false }, { opacity: 0.3 }, { mode: 'screen' as const }, { clip: true }),
			}),
			async (acts, { layer, what }) => {
				const engine = await open();
				for (const each of acts) if (each.kind !== 'run') perform(engine, each);
				const before = engine.composite('a').data.slice();
				const dirty = new Set(engine.run({ do: 'layer.change', sheet: 'a', layer, change: what }).get('a') ?? []);
				const after = engine.composite('a').data;
				const changed = new Set<number>();
				for (let i = 0; i < after.length; i++)
					if (after[i] !== before[i]) changed.add((Math.floor((i >> 2) / 256) >> 6) * 4 + (((i >> 2) % 256) >> 6));
				expect([...changed].filter((tile) => !dirty.has(tile))).toEqual([]);
				engine.close();
			},
		),
		{ numRuns: 12 },
	);
});

test('many strokes later old steps are pressed together and still come back', async () => {
	const engine = await open();
	const looks = [look(engine)];
	for (let i = 0; i < 20; i++) {
		perform(engine, {
			kind: 'stroke',
			layer: 'a1',
			on: 'sheet',
			points: [
				[10 + i * 10, 20],
				[200 - i * 5, 230],
			],
			wipe: i % 5 === 4,
		});
		looks.push(look(engine));
	}
	const loose = engine.history.bytes();
	while (engine.history.tidy());
	expect(engine.history.bytes()).toBeLessThan(loose * 0.75);
	for (let i = 19; i >= 0; i--) {
		engine.undo();
		expect(look(engine) === looks[i]).toBe(true);
	}
	for (let i = 1; i <= 20; i++) engine.redo();
	expect(look(engine) === looks[20]).toBe(true);
});

test('changes of one drag are one step', async () => {
	const engine = await open();
	for (const opacity of [0.9, 0.6, 0.2])
		engine.run({ do: 'layer.change', sheet: 'a', layer: 'a1', change: { opacity } }, 'drag');
	expect(engine.history.done.map((step) => step.words)).toEqual(['Opacity of "One" 20']);
	engine.undo();
	expect(engine.project.sheets[0]?.layers[1]?.opacity).toBe(1);
});

test('a copied layer has texels of its own', async () => {
	const engine = await open();
	perform(engine, {
		kind: 'stroke',
		layer: 'a1',
		on: 'sheet',
		points: [
			[20, 20],
			[90, 90],
		],
		wipe: false,
	});
	engine.run({ do: 'layer.add', sheet: 'a', at: 4, copyOf: 'a1', layer: paintLayer('copy', 'One 2') });
	const was = engine.sample('a', 50, 50, 'copy');
	expect(was[3]).toBeGreaterThan(0);
	perform(engine, {
		kind: 'stroke',
		layer: 'a1',
		on: 'sheet',
		points: [
			[20, 20],
			[90, 90],
		],
		wipe: true,
	});
	expect(engine.sample('a', 50, 50, 'copy')).toEqual(was);
});

describe('paint that cannot land is refused with the reason and the mend', () => {
	test.each([
		['hidden', { a: 'a1' }, { shown: false }, 'Show it'],
		['locked', { a: 'a1' }, { locked: true }, 'Unlock it'],
		['wash', { a: 'a0' }, {}, 'Add a mask'],
		['no-layer', {}, {}, 'Add a layer'],
	] as const)('%s', async (code, layers, change, label) => {
		const engine = await open();
		engine.run({ do: 'layer.change', sheet: 'a', layer: 'a1', change });
		const before = look(engine);
		expect(engine.begin(spec({ layers: { ...layers } }), [{ x: 5, y: 5, pressure: 1 }])).toMatchObject({
			ok: false,
			refusal: { code, mend: { label } },
		});
		expect(look(engine)).toBe(before);
	});
	test('beside the model, with no sheet to fall back on', async () => {
		const engine = await open();
		expect(
			engine.begin(spec({ place: { on: 'model', model: 'm', sight } }), [{ x: 1, y: 1, pressure: 1 }]),
		).toMatchObject({ ok: false, refusal: { code: 'off-model' } });
	});
});

test('a fill covers an island with its bleed and nothing else; on a sheet with no model all of it', async () => {
	const engine = await open();
	const scene = engine.scene('m');
	const sheet = engine.project.sheets[0];
	if (!scene || !sheet) throw new Error('no scene');
	engine.fill('a', 'a1', 100, 40, '#ff0000');
	const map = scene.mapOf(sheet);
	const island = scene.topology.islandOfFace[(map.faceOfTexel[40 * 256 + 100] as number) - 1];
	const gutter = new Map(Array.from(map.gutterTexel, (texel, i) => [texel, map.gutterSource[i] as number]));
	for (let i = 0; i < 256 * 256; i++) {
		const face = (map.faceOfTexel[i] || (gutter.has(i) ? map.faceOfTexel[gutter.get(i) as number] : 0)) as number;
		const want = face > 0 && scene.topology.islandOfFace[face - 1] === island;
		expect(engine.sample('a', i % 256, Math.floor(i / 256), 'a1')[3]).toBe(want ? 255 : 0);
	}
	const bare = await open([], { ...project(), models: [] });
	bare.fill('b', 'b1', 3, 3, '#00ff00');
	expect(bare.composite('b').data.every((v, i) => v === [0, 255, 0, 255][i % 4])).toBe(true);
});

test('a stroke cancelled leaves nothing, not even a step', async () => {
	const engine = await open();
	const before = look(engine);
	engine.begin(spec(), [{ x: 20, y: 20, pressure: 1 }]);
	engine.extend([{ x: 200, y: 200, pressure: 1 }]);
	engine.cancel();
	expect(look(engine)).toBe(before);
	expect(engine.history.done).toHaveLength(0);
	expect(engine.takeDelta()).toBeNull();
});

describe('the schema', () => {
	test('knows every blend mode', () => {
		const text = JSON.stringify(shapes);
		for (const mode of blendModes) expect(text).toContain(`"${mode}"`);
	});
	test('takes what we make and says what is wrong with what we do not', () => {
		expect(projectProblem(project())).toBeNull();
		expect(desksProblem(emptyDesk)).toBeNull();
		expect(projectProblem({ ...project(), name: '' })).toMatch(/not well formed/);
		expect(projectProblem({ ...project(), extra: 1 })).toMatch(/not well formed/);
		const twice = project();
		expect(projectProblem({ ...twice, sheets: [...twice.sheets, twice.sheets[0]] })).toMatch(/share an id/);
		expect(projectProblem({ ...twice, sheets: [twice.sheets[0]] })).toMatch(/does not have/);
		expect(desksProblem({ ...emptyDesk, front: 'red' })).toMatch(/desk is not well formed/);
	});
});

describe('what is kept', () => {
	test('while a stroke is made is without it; afterwards with it', async () => {
		const engine = await open();
		engine.begin(spec(), [{ x: 20, y: 20, pressure: 1 }]);
		engine.extend([{ x: 60, y: 20, pressure: 1 }]);
		engine.end();
		const first = look(engine);
		const kept = new Map<string, KeptTile>();
		const keep = (): void => keepTiles(kept, engine.takeDelta()?.tiles ?? []);
		// The second runs over the same tiles.
		engine.begin({ ...spec(), color: '#00ff00' }, [{ x: 20, y: 30, pressure: 1 }]);
		engine.extend([{ x: 60, y: 30, pressure: 1 }]);
		keep();
		expect(look(await open(kept.values()))).toBe(first);
		engine.end();
		expect(look(engine)).not.toBe(first);
		keep();
		expect(look(await open(kept.values()))).toBe(look(engine));
	});
	test('tiles that do not fit are left out and told; the rest opens', async () => {
		const texels = new Uint8Array(16384).fill(200);
		const layer = project().sheets[0]?.layers.find((each) => each.kind === 'paint');
		if (layer?.kind !== 'paint') throw new Error('no paint layer');
		const at = { surface: layer.surface, value: null };
		const engine = await open([
			{ ...at, index: 0, texels },
			{ ...at, index: 1, texels: texels.slice(0, 100) },
			{ ...at, index: 99_999, texels },
		]);
		expect(engine.leftOut).toEqual([layer.surface, layer.surface]);
		expect(engine.sample(project().sheets[0]?.id ?? '', 5, 5, layer.id)[3]).toBe(200);
	});
	test('a command that would make a document which does not open is refused in words, and changes nothing', async () => {
		const engine = await open();
		const [sheet] = engine.project.sheets;
		const layer = sheet?.layers.find((each) => each.kind === 'paint');
		const before = JSON.stringify(engine.project);
		for (const change of [{ coat: { depth: 7, falloff: 0 } }, { mode: 'melt' }, { name: 'x\u202ey' }] as LayerChange[])
			expect(() => engine.run({ do: 'layer.change', sheet: sheet?.id ?? '', layer: layer?.id ?? '', change })).toThrow(
				CommandError,
			);
		expect(() =>
			engine.run({
				do: 'layer.change',
				sheet: sheet?.id ?? '',
				layer: layer?.id ?? '',
				change: { coat: { depth: 7, falloff: 0 } },
			}),
		).toThrow(/^depth of ".*" cannot be so/);
		expect(JSON.stringify(engine.project)).toBe(before);
		expect(engine.history.done).toHaveLength(0);
	});
});
