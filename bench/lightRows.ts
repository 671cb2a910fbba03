/** What light costs while a dial moves, and bakes in the pool. */
import { lightLayer, paintLayer } from '@eppu/core/document';
import { type Engine, openEngine } from '@eppu/core/engine';
import { type Bake, bakedSteps, lightPresets, type Rig, toneBake } from '@eppu/core/light';
import type { Kernels } from '@eppu/kernels';
import { openPool } from '@eppu/server/jobs';
import { undisturbed } from './measure.ts';
import { p95, settleIn } from './recipeRows.ts';
import type { Report } from './rows.ts';
import { benchMesh, benchProject } from './scenes.ts';

/** A frame of a 60 Hz screen, ms. */
const FRAME = 1000 / 60;
/** Milliseconds in which all bakes of a sheet of 1024 are to be made. */
const BAKE_SET = 12_000;

const mesh = benchMesh();
const occlusion = toneBake('occlusion', 'Ambient occlusion', 'occlusion', { reach: 35, rays: 64 });
const allBakes: readonly Bake[] = [
	occlusion,
	toneBake('hollows', 'Hollows', 'curvature', { of: 'hollows' }),
	...bakedSteps.filter((step) => step !== 'occlusion').map((step) => toneBake(step, step, step)),
	{ id: 'normals', name: 'Normals', bake: 'normals' },
	{ id: 'ids', name: 'Ids', bake: 'ids', by: 'part', seed: 1 },
];

function open(kernels: Kernels, size: number, bakes: readonly Bake[], rig?: Rig): Engine {
	const project = benchProject(mesh, size, rig ? [lightLayer('l', 'Light', rig)] : [paintLayer('p', 'P')]);
	const models = project.models.map((model) => ({ ...model, bakes }));
	return openEngine(kernels, { ...project, models }, [], new Map([['m', mesh]]));
}

/** Light over what stands out: a lamp that moves, a height that is changed, and a stroke that lays both. */
async function reliefRows(kernels: Kernels, report: Report, rig: Rig): Promise<void> {
	const size = 1024;
	const plates = paintLayer('p', 'Plates', { relief: { from: 'tone', height: 1, soft: 1.5 } });
	const project = benchProject(mesh, size, [plates, lightLayer('l', 'Light', rig)]);
	const engine = openEngine(kernels, project, [], new Map([['m', mesh]]));
	const data = new Uint8Array(size * size * 4).fill(255);
	for (let i = 0; i < size * size; i++) if ((i % 61) * ((i >> 10) % 47) < 200) data.fill(90, i * 4, i * 4 + 3);
	engine.lay('s', 'p', 'color', { width: size, height: size, data }, 'Plates');
	engine.refresh(() => false);
	let turn = 0;
	const change = (layer: string, of: object): void => {
		engine.run({ do: 'layer.change', sheet: 's', layer, change: of });
		while (engine.due) engine.refresh(() => false);
	};
	const lamp = (): void =>
		change('l', { rig: { ...rig, lamps: rig.lamps.map((each) => ({ ...each, turn: (turn = (turn + 1) % 90) })) } });
	await report(
		'relief.lamp.1024',
		() => undisturbed(12, lamp),
		null,
		'a lamp moves over relief: all tiles on one thread',
	);
	const lift = (): void => change('p', { relief: { ...plates.relief, height: 1 + (turn = (turn + 1) % 7) / 10 } });
	await report(
		'relief.height.1024',
		() => undisturbed(6, lift),
		null,
		'its height changes: slopes and light of all tiles',
	);
	await report(
		'stroke.relief.1024',
		async () => p95(kernels, engine, true),
		null,
		'one step of a stroke that lays relief, its picture and all light around it, 95 of 100 below this',
	);
	engine.close();
}

export async function lightRows(kernels: Kernels, report: Report): Promise<void> {
	const warm = lightPresets[0]?.rig as Rig;
	for (const [row, size, strokes, most] of [
		['light.dial.1024', 1024, false, FRAME],
		['light.dial.2048', 2048, false, 100],
		['light.strokes.1024', 1024, true, null],
	] as const) {
		const rig: Rig = {
			...warm,
			strokes: strokes ? warm.strokes : null,
			occlusion: { ...warm.occlusion, bake: 'occlusion' },
		};
		// What is measured is the light: its bake is quick and there already.
		const engine = open(kernels, size, [{ ...occlusion, step: { ...occlusion.step, rays: 4 } } as Bake], rig);
		engine.refresh(() => false);
		let turn = 0;
		await report(
			row,
			() =>
				undisturbed(12, () => {
					const lamps = rig.lamps.map((lamp) => ({ ...lamp, turn: (turn = (turn + 1) % 90) }));
					engine.run({ do: 'layer.change', sheet: 's', layer: 'l', change: { rig: { ...rig, lamps } } });
					engine.refresh(() => false);
				}),
			most === null ? null : { ms: most },
			strokes ? 'in strokes, all tiles on one thread' : 'a lamp moves: all tiles on one thread',
		);
		engine.close();
	}
	await reliefRows(kernels, report, { ...warm, strokes: null });
	const pool = await openPool(kernels, 2);
	pool.tell({ say: 'meshes', meshes: new Map([['m', mesh]]) });
	const made = async (size: number, bakes: readonly Bake[]): Promise<number> => {
		const engine = open(kernels, size, bakes);
		const start = performance.now();
		await settleIn(pool, engine);
		const ms = performance.now() - start;
		engine.close();
		return ms;
	};
	for (const size of [512, 1024, 2048]) {
		await report(`bake.ao.${size}`, () => made(size, [occlusion]), null, '64 rays, two members');
	}
	await report('bake.set.1024', () => made(1024, allBakes), { ms: BAKE_SET }, `${allBakes.length} bakes, two members`);
	pool.end();
}
