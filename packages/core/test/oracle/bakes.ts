import type { Kernels } from '@eppu/kernels';
import { paintLayer, type Sheet } from '../../src/document/index.ts';
import { type Engine, openEngine } from '../../src/engine/index.ts';
import type { Bake } from '../../src/light/index.ts';
import type { LaidMesh } from '../../src/mesh/index.ts';
import { modelGround } from '../../src/scene/index.ts';
import { pictureOfSurface, type Surface } from '../../src/surface/index.ts';
import { projectOf } from './meshes.ts';

/** Texels along the sheet that a model with bakes lies on. */
export const SIDE = 128;

/** A model on a sheet of its own, with bakes. */
export function openBakes(
	kernels: Kernels,
	mesh: LaidMesh,
	bakes: readonly Bake[],
	side = SIDE,
	layers = [paintLayer('p', 'P')],
): Engine {
	const project = projectOf(mesh, side, layers);
	return openEngine(
		kernels,
		{ ...project, models: project.models.map((model) => ({ ...model, bakes })) },
		[],
		new Map([['m', mesh]]),
	);
}

/** A bake's texels, 0..1. */
export function bakedTones(engine: Engine, bake = 'b'): Float32Array {
	engine.refresh(() => false);
	const { data } = pictureOfSurface(engine.kernels, engine.surface(`${bake}~s`) as Surface);
	return Float32Array.from(new Uint16Array(data.buffer, data.byteOffset, data.length / 2), (v) => v / 65535);
}

/** Calls with each texel that a face has: its number, its face, and its place on the model. */
export function eachTexel(
	engine: Engine,
	visit: (i: number, face: number, place: readonly [number, number, number]) => void,
): void {
	const [scene, sheet] = [engine.scene('m'), engine.project.sheets[0] as Sheet];
	if (!scene) throw new Error('no scene');
	const { placeOf } = modelGround(scene, sheet);
	scene.mapOf(sheet).faceOfTexel.forEach((face, i) => {
		if (face) visit(i, face - 1, placeOf(face - 1, (i % sheet.width) + 0.5, Math.floor(i / sheet.width) + 0.5));
	});
}
