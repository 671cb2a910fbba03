/** A stroke that changes nothing makes no step and says why, with the way out where there is one. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import { type Layer, type Project, paintLayer } from '../src/document/index.ts';
import { type Engine, openEngine, type StrokeSpec } from '../src/engine/index.ts';
import type { LaidMesh } from '../src/mesh/index.ts';
import { homeCamera } from '../src/projection/index.ts';
import { defaultTip } from '../src/stroke/index.ts';
import { box, projectOf } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});
const SIDE = 256;
const open = (
	mesh: LaidMesh = box(),
	layer: Layer = paintLayer('p', 'Paint'),
	change: (project: Project) => Project = (each) => each,
): Engine => openEngine(kernels, change(projectOf(mesh, SIDE, [layer])), [], new Map([['m', mesh]]));
const onSheet: StrokeSpec = {
	tool: 'draw',
	tip: { ...defaultTip, size: 12 },
	color: '#d07020',
	place: { on: 'sheet', sheet: 's' },
	layers: { s: 'p' },
};
const sight = { camera: { ...homeCamera, yaw: 0, pitch: 0, distance: 7 }, width: 300, height: 300 };
const onModel: StrokeSpec = { ...onSheet, place: { on: 'model', model: 'm', sight, sheet: 's' } };
/** A stroke from place to place; what is said of it. */
const stroke = (engine: Engine, spec: StrokeSpec, ...places: readonly (readonly [number, number])[]) => {
	const samples = places.map(([x, y]) => ({ x, y, pressure: 1 }));
	const steps = engine.history.done.length;
	const begun = engine.begin(spec, samples.slice(0, 1));
	if (!begun.ok) return { refusal: begun.refusal, steps: 0 };
	engine.extend(samples.slice(1));
	engine.end();
	return { refusal: engine.missed, steps: engine.history.done.length - steps };
};

describe('a stroke that changes nothing', () => {
	test('beside the sheet, beside the model', () => {
		const engine = open();
		expect(stroke(engine, onSheet, [-90, -90], [-60, -80])).toMatchObject({
			steps: 0,
			refusal: { text: expect.stringContaining('beside the sheet') },
		});
		expect(stroke(engine, onModel, [4, 4], [12, 4])).toMatchObject({
			steps: 0,
			refusal: { text: expect.stringContaining('beside the model') },
		});
		expect(stroke(engine, onModel, [150, 150], [160, 150])).toEqual({ steps: 1, refusal: null });
		engine.close();
	});
	test('on faces whose UVs have no area', () => {
		const flat = box();
		const mesh = { ...flat, uvs: flat.uvs.map(() => 0.5) };
		const engine = open(mesh);
		expect(stroke(engine, onModel, [150, 150], [170, 150])).toMatchObject({
			steps: 0,
			refusal: { code: 'no-area', text: expect.stringContaining('no area on the sheet') },
		});
		engine.close();
	});
	test('on a side that is seen edge-on', () => {
		// A single upright square seen along itself, a hair from its front.
		const mesh: LaidMesh = {
			positions: Float32Array.from([0, -1, -1, 0, -1, 1, 0, 1, 1, 0, 1, -1]),
			uvs: Float32Array.from([0.1, 0.9, 0.9, 0.9, 0.9, 0.1, 0.1, 0.1]),
			normals: null,
			indices: Uint32Array.from([0, 2, 1, 0, 3, 2]),
			parts: [{ name: 'Sign', firstFace: 0, faces: 2 }],
		};
		const engine = open(mesh);
		const camera = { ...homeCamera, yaw: 1.4, pitch: 0, distance: 7, parallel: true };
		const spec: StrokeSpec = {
			...onModel,
			place: { on: 'model', model: 'm', sight: { ...sight, camera }, sheet: 's' },
		};
		expect(stroke(engine, spec, [150, 120], [150, 180])).toMatchObject({ steps: 0, refusal: { code: 'edge-on' } });
		const through: StrokeSpec = {
			...spec,
			place: { on: 'model', model: 'm', sight: { ...sight, camera, reach: 'through' }, sheet: 's' },
		};
		expect(stroke(engine, through, [150, 120], [150, 180])).toEqual({ steps: 1, refusal: null });
		engine.close();
	});
	test('on a layer that keeps its shape and has none: one click lets it grow', () => {
		const engine = open(box(), paintLayer('p', 'Glow', { lockAlpha: true }));
		const { refusal } = stroke(engine, onSheet, [60, 60], [90, 60]);
		expect(refusal).toMatchObject({
			code: 'keeps-shape',
			text: expect.stringContaining('"Glow" keeps its shape, and it is empty'),
		});
		if (!refusal?.mend || !('command' in refusal.mend)) throw new Error('no way out');
		engine.run(refusal.mend.command);
		expect(stroke(engine, onSheet, [60, 60], [90, 60])).toEqual({ steps: 1, refusal: null });
		engine.close();
	});
	test('in the colour that is there already, or wiping where nothing is', () => {
		const engine = open();
		expect(stroke(engine, { ...onSheet, tool: 'wipe' }, [60, 60], [90, 60])).toMatchObject({
			steps: 0,
			refusal: { text: expect.stringContaining('nothing on "Paint" here') },
		});
		const hard = { ...onSheet, tip: { ...defaultTip, size: 60, edge: 1, strength: 1 } };
		stroke(engine, hard, [60, 60], [120, 60]);
		expect(stroke(engine, { ...hard, tip: { ...hard.tip, size: 20 } }, [80, 60], [100, 60])).toMatchObject({
			steps: 0,
			refusal: { text: expect.stringContaining('has that colour here already') },
		});
		engine.close();
	});
	test('where the guard keeps paint off all the way; one that comes to a free place paints there', () => {
		const engine = open();
		const scene = engine.scene('m');
		const sheet = engine.project.sheets[0];
		const island = sheet && scene?.spotOn(sheet, null, 40, 40)?.island;
		const guard = { way: 'only' as const, parts: [], islands: [island ?? -1], faces: [] };
		expect(stroke(engine, { ...onSheet, guard }, [130, 40], [140, 40])).toMatchObject({
			steps: 0,
			refusal: { code: 'guarded', mend: { liftGuard: true } },
		});
		expect(stroke(engine, { ...onSheet, guard }, [130, 40], [40, 40])).toEqual({ steps: 1, refusal: null });
		engine.close();
	});
});
