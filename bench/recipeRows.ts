/** What computing from the document costs: a mask recipe over a whole sheet, and strokes under ten of them. */

import { type Layer, paintLayer, washLayer } from '@eppu/core/document';
import { type Engine, openEngine, type StrokeSpec } from '@eppu/core/engine';
import { newStep, presets, type Recipe, type RecipeStep } from '@eppu/core/recipe';
import { defaultTip, unruled } from '@eppu/core/stroke';
import type { Kernels } from '@eppu/kernels';
import { undisturbed } from './measure.ts';
import { floor, type Report } from './rows.ts';
import { benchMesh, benchProject } from './scenes.ts';

const SIZE = 2048;
/** A frame of a 60 Hz screen, ms. */
const FRAME = 1000 / 60;

const mesh = benchMesh();
const open = (kernels: Kernels, layers: readonly Layer[]): Engine =>
	openEngine(kernels, benchProject(mesh, SIZE, layers), [], new Map([['m', mesh]]));
const masked = (id: string, recipe: Recipe): Layer =>
	washLayer(id, id, '#5a4632', { mask: { surface: `${id}-m`, on: true, recipe } });
const change = (engine: Engine, recipe: Recipe): void => {
	engine.run({ do: 'layer.change', sheet: 's', layer: 'w', change: { mask: { surface: 'w-m', on: true, recipe } } });
};

export async function recipeRows(kernels: Kernels, report: Report): Promise<void> {
	let turn = 0;
	for (const [row, name] of [
		['recipe.edge.2048', 'Edge wear'],
		// One that looks around a texel, over seams.
		['recipe.hand.2048', 'Hand dirt'],
	] as const) {
		const steps = presets.find((preset) => preset.name === name)?.steps ?? [];
		const engine = open(kernels, [masked('w', steps)]);
		engine.refresh(() => false);
		await report(
			row,
			() =>
				undisturbed(3, () => {
					// Another chance each time, so that all is due again.
					change(engine, steps.map((step) => ('seed' in step ? { ...step, seed: ++turn } : step)) as Recipe);
					engine.refresh(() => false);
				}),
			null,
			`the "${name}" preset over the whole sheet, ${mesh.indices.length / 3} faces, in slices of a tile`,
		);
		await report(
			row.replace('2048', 'draft'),
			() =>
				undisturbed(3, () => {
					change(engine, steps.map((step) => ('seed' in step ? { ...step, seed: ++turn } : step)) as Recipe);
					let tiles = (SIZE / 64) ** 2;
					engine.refresh(() => tiles-- <= 0);
				}),
			null,
			'the same as a draft: what is seen first while a dial moves',
		);
		engine.close();
	}
	const tap: RecipeStep = { ...newStep('tap', 't'), layer: 'p', mix: 'replace' } as RecipeStep;
	const ten = open(kernels, [
		paintLayer('p', 'P'),
		...Array.from({ length: 10 }, (_, i) =>
			masked(`r${i}`, [{ ...tap, id: `t${i}` }, ...(presets[i % 5]?.steps ?? []).slice(1)]),
		),
	]);
	ten.refresh(() => false);
	await report(
		'stroke.recipes.10',
		async () => p95(kernels, ten),
		FRAME / (await floor()),
		'one step of a stroke and its picture, 95 of 100 below this, ten recipes that tap the layer; the bar is a frame of 60 Hz',
	);
	ten.close();
}

/** Milliseconds of engine time from samples to composited tiles, 95 % below. */
function p95(kernels: Kernels, engine: Engine): number {
	const spec: StrokeSpec = {
		tool: 'draw',
		tip: { ...unruled(defaultTip), size: 64 },
		color: '#c08040',
		place: { on: 'sheet', sheet: 's' },
		layers: { s: 'p' },
	};
	const out = kernels.heap.alloc(16384);
	const times: number[] = [];
	const show = (dirty: ReadonlyMap<string, readonly number[]>): void => {
		for (const tile of dirty.get('s') ?? []) engine.compositeTile('s', tile, out);
	};
	for (let n = 0; n < 4; n++) {
		const at = (i: number) => ({ x: 300 + i * 9, y: 500 + n * 300 + 60 * Math.sin(i * 0.2), pressure: 1 });
		const begun = engine.begin(spec, [at(0)]);
		if (!begun.ok) throw new Error(begun.refusal.text);
		for (let i = 1; i < 120; i++) {
			const start = performance.now();
			show(engine.extend([at(i)]));
			times.push(performance.now() - start);
		}
		engine.end();
	}
	kernels.heap.free(out, 16384);
	times.sort((a, b) => a - b);
	return times[Math.floor(times.length * 0.95)] as number;
}
