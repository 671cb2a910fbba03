/** What computing from the document costs: a mask recipe over a whole sheet, and strokes under ten of them. */

import { type Layer, paintLayer, washLayer } from '@eppu/core/document';
import { type Engine, openEngine, type StrokeSpec } from '@eppu/core/engine';
import type { Pool } from '@eppu/core/jobs';
import { newStep, presets, type Recipe, type RecipeStep, stepKindOf } from '@eppu/core/recipe';
import { defaultTip, unruled } from '@eppu/core/stroke';
import type { Kernels } from '@eppu/kernels';
import { openPool } from '@eppu/server/jobs';
import { undisturbed } from './measure.ts';
import type { Report } from './rows.ts';
import { benchMesh, benchProject } from './scenes.ts';

const SIZE = 2048;
/** A frame of a 60 Hz screen, ms. */
const FRAME = 1000 / 60;

const mesh = benchMesh();
const open = (kernels: Kernels, layers: readonly Layer[], size = SIZE): Engine =>
	openEngine(kernels, benchProject(mesh, size, layers), [], new Map([['m', mesh]]));
const masked = (id: string, recipe: Recipe): Layer =>
	washLayer(id, id, '#5a4632', { mask: { surface: `${id}-m`, on: true, recipe } });
const change = (engine: Engine, recipe: Recipe): void => {
	engine.run({ do: 'layer.change', sheet: 's', layer: 'w', change: { mask: { surface: 'w-m', on: true, recipe } } });
};

/** A recipe with other chances, so that all of it is due again. */
let turn = 0;
const turned = (steps: Recipe): Recipe =>
	steps.map((step) => ('seed' in step ? { ...step, seed: ++turn } : step)) as Recipe;

/** A recipe with the first dial of its first step turned a little: nothing before it can be remembered. */
function firstTurned([first, ...rest]: Recipe): Recipe {
	if (!first) return [];
	const [dial] = stepKindOf(first).dials as readonly { readonly of: string }[];
	if (!dial) return [first, ...rest];
	const value = Number((first as unknown as Record<string, unknown>)[dial.of]) * (1 + 0.001 * (++turn % 100));
	return [{ ...first, [dial.of]: value } as RecipeStep, ...rest];
}

/** Computes what is due in a pool, until as many tiles were shown as `tiles` says, drafts too. */
export async function settleIn(pool: Pool, engine: Engine, tiles = Infinity): Promise<void> {
	pool.tell({ say: 'project', project: engine.project });
	let shown = 0;
	while (engine.due && shown < tiles) {
		for (let work = pool.idle ? engine.lend(32) : null; work; work = pool.idle ? engine.lend(32) : null) {
			const lent = work;
			const job: Promise<void> = pool.do(lent, 1).then((made) => {
				engine.returned(lent, made);
				flying.delete(job);
			});
			flying.add(job);
		}
		await Promise.race(flying);
		for (const [, list] of engine.refresh(() => true)) shown += list.length;
	}
	if (tiles === Infinity) await landed();
}

/** Jobs that are out. What was shown first is timed, and not what members have begun since. */
const flying = new Set<Promise<void>>();
const landed = async (): Promise<void> => void (await Promise.all(flying));

export async function recipeRows(kernels: Kernels, report: Report): Promise<void> {
	const pool = await openPool(kernels, 2);
	pool.tell({ say: 'meshes', meshes: new Map([['m', mesh]]) });
	const tiles = (size: number): number => (size / 64) ** 2;
	for (const [row, name, bar, draftBar] of [
		['recipe.edge.2048', 'Edge wear', 80, 15],
		// One that looks around a texel, over seams.
		['recipe.hand.2048', 'Hand dirt', 330, 40],
	] as const) {
		const steps = presets.find((preset) => preset.name === name)?.steps ?? [];
		const engine = open(kernels, [masked('w', steps)]);
		await settleIn(pool, engine);
		const again = (until?: number) => (): Promise<void> => {
			change(engine, turned(steps));
			return settleIn(pool, engine, until);
		};
		await report(
			row,
			() => undisturbed(3, again()),
			bar,
			`the "${name}" preset over the whole sheet, two workers, after its draft`,
		);
		const draft = row.replace('2048', 'draft');
		await report(
			draft,
			() => undisturbed(3, again(tiles(SIZE)), landed),
			draftBar,
			'its draft: what is seen first while a dial moves',
		);
		await landed();
		engine.refresh(() => false);
		await report(
			row.replace('2048', 'one'),
			() =>
				undisturbed(3, () => {
					change(engine, turned(steps));
					engine.refresh(() => false);
				}),
			null,
			'the same on one thread, in slices of a tile',
		);
		engine.close();
	}
	let worst = { ms: 0, name: '' };
	const dials: string[] = [];
	for (const { name, steps } of presets) {
		const engine = open(kernels, [masked('w', steps)], 1024);
		await settleIn(pool, engine);
		for (const [of, turning] of [
			['chances', turned],
			['first dial', firstTurned],
		] as const) {
			const first = (): Promise<void> => {
				change(engine, turning(steps));
				return settleIn(pool, engine, tiles(1024));
			};
			const ms = await undisturbed(4, first, landed);
			dials.push(`${name}, ${of} ${ms.toFixed(0)} ms`);
			if (ms > worst.ms) worst = { ms, name: `${name}, ${of}` };
		}
		await landed();
		engine.close();
	}
	console.log(dials.join(' · '));
	await report(
		'dial.recipe.1024',
		async () => worst.ms,
		16,
		`a dial to the first whole picture, two workers; the slowest: "${worst.name}"`,
	);
	pool.end();
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
		{ ms: FRAME },
		'one step of a stroke and its picture, 95 of 100 below this, ten recipes that tap the layer; the bar is a frame of 60 Hz',
	);
	ten.close();
}

/** Milliseconds of engine time from samples to composited tiles, 95 % below; with all that follows from them, too. */
export function p95(kernels: Kernels, engine: Engine, follows = false): number {
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
			while (follows && engine.due) show(engine.refresh(() => false));
			times.push(performance.now() - start);
		}
		engine.end();
	}
	kernels.heap.free(out, 16384);
	times.sort((a, b) => a - b);
	return times[Math.floor(times.length * 0.95)] as number;
}
