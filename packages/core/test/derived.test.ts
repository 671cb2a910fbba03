/** What is computed from the document: recipes, lettering, fills, finishes, changes of areas. In pieces or whole, live or opened anew, it is the same. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import fc from 'fast-check';
import type { ReturnedLoan } from '../src/derive/index.ts';
import {
	CommandError,
	type Layer,
	layerOf,
	type Project,
	paintLayer,
	projectProblem,
	washLayer,
} from '../src/document/index.ts';
import { type Engine, type KeptTile, openEngine } from '../src/engine/index.ts';
import { derive } from '../src/jobs/derive.ts';
import type { JobHost } from '../src/jobs/index.ts';
import { presets, type RecipeStep } from '../src/recipe/index.ts';
import { pictureOfSurface, type Surface } from '../src/surface/index.ts';
import { everything, masked, mesh, meshes, openOn, paint, picture, SIDE, step, text } from './oracle/derived.ts';
import { projectOf } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});
const open = (layers: readonly Layer[], tiles: readonly KeptTile[] = []): Engine => openOn(kernels, layers, tiles);
/** What the screen would show now, with nothing computed for the question. */
const alphaNow = (engine: Engine, at: number): number => {
	const out = kernels.heap.alloc(64 * 64 * 4);
	engine.compositeTile('s', Math.floor(at / 64) * 4, out);
	const alpha = kernels.heap.u8[out + ((at % 64) * 64 + (at % 64)) * 4 + 3] as number;
	kernels.heap.free(out, 64 * 64 * 4);
	return alpha;
};

test('the whole stack passes its schema', () => {
	expect(projectProblem(projectOf(mesh, SIDE, everything()))).toBeNull();
	for (const { steps } of presets)
		expect(projectProblem(projectOf(mesh, SIDE, [masked(paintLayer('p', 'P'), steps)]))).toBeNull();
	const wrong = masked(paintLayer('p', 'P'), [step('noise', { size: -1 })]);
	expect(projectProblem(projectOf(mesh, SIDE, [wrong]))).toMatch(/not well formed/);
});

test('after any changes, strokes and undos, computed in slices of any length, the picture is that of the document opened anew', () => {
	const tint = (n: number): string => `#${(n * 4321).toString(16).padStart(6, '0').slice(-6)}`;
	const change = fc.oneof(
		fc.record({ layer: fc.constantFrom('a', 'b'), seed: fc.nat(99) }).map(
			({ layer, seed }) =>
				(engine: Engine) =>
					paint(engine, layer, 'color', seed),
		),
		fc.nat(99).map((seed) => (engine: Engine) => paint(engine, 'b', 'mask', seed)),
		fc.nat(60).map((size) => (engine: Engine) => {
			engine.run({
				do: 'layer.change',
				sheet: 's',
				layer: 'words',
				change: { text: { ...text, size: size + 4, turn: size } },
			});
		}),
		fc.nat(9).map((n) => (engine: Engine) => {
			engine.run({
				do: 'layer.change',
				sheet: 's',
				layer: 'ground',
				change: n % 2 ? { fill: null } : { color: tint(n) },
			});
		}),
		fc.constantFrom('a', 'dirt', 'soft', 'words').map((layer) => (engine: Engine) => {
			engine.run({ do: 'layer.change', sheet: 's', layer, change: { shown: false } });
		}),
		fc.tuple(fc.nat(3), fc.nat(9), fc.boolean()).map(([index, n, off]) => (engine: Engine) => {
			// A step of the recipe changed, switched off, or another put in its place.
			const mask = layerOf(engine.project.sheets[0], 'dirt')?.mask;
			if (!mask?.recipe) return;
			const recipe = mask.recipe.map((each, i) =>
				i !== index
					? each
					: off
						? { ...each, on: !each.on }
						: 'radius' in each
							? { ...each, radius: n }
							: 'by' in each
								? { ...each, by: n }
								: 'seed' in each
									? { ...each, seed: n }
									: each,
			) as RecipeStep[];
			engine.run({ do: 'layer.change', sheet: 's', layer: 'dirt', change: { mask: { ...mask, recipe } } });
		}),
		fc.nat(5).map((to) => (engine: Engine) => {
			engine.run({ do: 'layer.move', sheet: 's', layer: 'dirt', to });
		}),
		fc.constant((engine: Engine) => void engine.undo()),
		fc.constant((engine: Engine) => void engine.redo()),
	);
	fc.assert(
		fc.property(fc.array(fc.tuple(change, fc.nat(12)), { minLength: 1, maxLength: 9 }), (list) => {
			const engine = open(everything());
			paint(engine, 'a', 'color', 3);
			for (const [act, slice] of list) {
				try {
					act(engine);
				} catch (error) {
					if (!(error instanceof CommandError)) throw error;
				}
				let left = slice;
				engine.refresh(() => left-- <= 0);
			}
			const kept = engine.takeDelta();
			const anew = openEngine(kernels, kept?.project as Project, kept?.tiles ?? [], meshes);
			const same = Buffer.compare(picture(engine), picture(anew)) === 0;
			engine.close();
			anew.close();
			return same;
		}),
		{ numRuns: 14 },
	);
}, 120_000);

test('what is refreshed is told: tiles that are not keep their picture', () => {
	const engine = open(everything());
	paint(engine, 'a', 'color', 3);
	const before = picture(engine);
	// Asking for the picture computed all; what changed by it is still told.
	expect(engine.due).toBe(true);
	expect(engine.left).toBe(0);
	expect([...(engine.refresh(() => false).get('s') ?? [])].length).toBe(9);
	expect(engine.due).toBe(false);
	const dirty = engine.edit('s', 'a', {
		do: 'shape',
		shape: { kind: 'ellipse', x: 8, y: 8, width: 20, height: 20 },
		outline: null,
		repeat: null,
		color: '#ff0000',
	});
	if (!dirty.ok) throw new Error('refused');
	expect(engine.due).toBe(true);
	const told = new Set([...(dirty.dirty.get('s') ?? []), ...(engine.refresh(() => false).get('s') ?? [])]);
	const now = picture(engine);
	for (let i = 0; i < SIDE * SIDE; i++) {
		const tile = Math.floor(Math.floor(i / SIDE) / 64) * 3 + Math.floor((i % SIDE) / 64);
		if (!told.has(tile)) expect(now.readUInt32LE(i * 4)).toBe(before.readUInt32LE(i * 4));
	}
	engine.close();
});

test('until a new recipe is computed its layer is seen as before; a project that opens begins with nothing', () => {
	const wash = washLayer('w', 'W', '#cc3311');
	const engine = open([wash]);
	const run = (recipe: readonly RecipeStep[] | null): void =>
		void engine.run({
			do: 'layer.change',
			sheet: 's',
			layer: 'w',
			change: { mask: { surface: 'w-m', on: true, recipe } },
		});
	const alphas = (): Set<number> => new Set([8, 80, 150].map((at) => alphaNow(engine, at)));
	run([step('tone', { value: 0.2 })]);
	expect(alphas()).toEqual(new Set([255]));
	engine.refresh(() => false);
	expect(alphas()).toEqual(new Set([51]));
	const again = open(engine.project.sheets[0]?.layers ?? []);
	expect(alphaNow(again, 80)).toBe(0);
	again.refresh(() => false);
	expect(alphaNow(again, 80)).toBe(51);
	again.close();
	engine.close();
});

test('a dear mask is shown in a draft first, which is close to it; what is asked for whole waits for no draft', () => {
	const side = 768;
	const steps = [step('clouds', { mix: 'replace', size: 14, contrast: 0.4 }), step('blur', { radius: 2 })];
	const layers = [masked(washLayer('w', 'W', '#cc3311'), steps)];
	const big = (): Engine => openEngine(kernels, projectOf(mesh, side, layers), [], meshes);
	const maskNow = (engine: Engine): Uint8Array => pictureOfSurface(kernels, engine.surface('w~mask') as Surface).data;
	const engine = big();
	let slices = 9;
	const told = engine.refresh(() => slices-- <= 0).get('s') ?? [];
	expect(told.length).toBe(144);
	// All is still to be made well.
	expect(engine.left).toBe(144);
	const draft = maskNow(engine);
	engine.refresh(() => false);
	const whole = maskNow(engine);
	let [sum, spread] = [0, 0];
	whole.forEach((v, i) => {
		sum += Math.abs(v - (draft[i] as number));
		spread = Math.max(spread, v);
	});
	expect(spread).toBeGreaterThan(200);
	expect(sum / whole.length).toBeLessThan(6);
	expect(sum).toBeGreaterThan(0);
	const asked = big();
	asked.composite('s');
	expect(Buffer.compare(maskNow(asked), whole)).toBe(0);
	engine.close();
	asked.close();
});

test('a draft of a tile is the same within 1, whichever others are made with it', () => {
	const side = 512;
	const cols = side / 64;
	fc.assert(
		fc.property(
			fc.constantFrom(...presets.map(({ name, steps }) => ({ name, steps }))),
			fc.uniqueArray(fc.nat(cols * cols - 1), { minLength: 1, maxLength: 24 }),
			({ steps }, tiles) => {
				const layers = [masked(washLayer('w', 'W', '#cc3311'), steps)];
				const host = { kernels, known: { project: projectOf(mesh, side, layers), meshes } } as unknown as JobHost;
				const does = derive.begin(host);
				const loan = {
					job: 'derive',
					n: 1,
					sheet: 's',
					surface: 'w~mask',
					draft: true,
					inputs: [],
					prefix: null,
				} as const;
				const drafts = (each: readonly number[]): (Uint8Array | null)[] =>
					(does({ ...loan, tiles: each }) as ReturnedLoan).tiles.map(({ texels }) => texels);
				const together = drafts(tiles);
				tiles.forEach((tile, i) => {
					const [alone] = drafts([tile]);
					const [a, b] = [alone ?? new Uint8Array(64 * 64), together[i] ?? new Uint8Array(64 * 64)];
					// A blur's running sums begin elsewhere.
					expect(Math.max(...a.map((v, k) => Math.abs(v - (b[k] as number))))).toBeLessThanOrEqual(1);
				});
			},
		),
		{ numRuns: 25 },
	);
});
