/** Ambient occlusion as a source of mask recipes: right where it can be told, without seams, the same however it is cut up. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import { createMeshBuilder } from '../../../demo/mesh/shapes.ts';
import { paintLayer, type Sheet, washLayer } from '../src/document/index.ts';
import { type Engine, openEngine } from '../src/engine/index.ts';
import type { LaidMesh } from '../src/mesh/index.ts';
import { newStep, type RecipeStep } from '../src/recipe/index.ts';
import { modelGround } from '../src/scene/index.ts';
import { pictureOfSurface, type Surface } from '../src/surface/index.ts';
import { ball, blocks, box, projectOf, tube } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const SIDE = 128;
const step = (change: object = {}): RecipeStep =>
	({ ...newStep('occlusion', 'o'), mix: 'replace', falls: 'alike', reach: 400, ...change }) as RecipeStep;
const open = (mesh: LaidMesh, steps: readonly RecipeStep[], side = SIDE): Engine =>
	openEngine(
		kernels,
		projectOf(mesh, side, [
			washLayer('w', 'W', '#201018', { mask: { surface: 'w-m', on: true, recipe: steps } }),
			paintLayer('p', 'P'),
		]),
		[],
		new Map([['m', mesh]]),
	);
const maskOf = (engine: Engine): Uint8Array => {
	engine.refresh(() => false);
	return pictureOfSurface(kernels, engine.surface('w~mask') as Surface).data;
};

/** A floor of one side with a wall at its left, as high as it is asked for. */
const corner = (high: number): LaidMesh => {
	const builder = createMeshBuilder();
	builder.part('Floor');
	builder.grid(4, 4, (u, v) => [4 * u, 0, -20 + 40 * v], { x: 0.05, y: 0.05, w: 0.9, h: 0.4 });
	builder.part('Wall');
	builder.grid(1, 1, (u, v) => [0, high * (1 - v), 20 - 40 * u], { x: 0.05, y: 0.55, w: 0.9, h: 0.4 });
	return builder.mesh();
};

test('on a floor beside a wall each texel is as dark as the angle of the wall’s top says', () => {
	for (const high of [1, 3]) {
		const mesh = corner(high);
		const engine = open(mesh, [step({ rays: 256 })]);
		const tones = maskOf(engine);
		const scene = engine.scene('m');
		const sheet = engine.project.sheets[0] as Sheet;
		if (!scene) throw new Error('no scene');
		const { placeOf } = modelGround(scene, sheet);
		const map = scene.mapOf(sheet);
		let [sum, count, most] = [0, 0, 0];
		map.faceOfTexel.forEach((face, i) => {
			if (!face || scene.partOfFace(face - 1) !== 0) return;
			const [x, , z] = placeOf(face - 1, (i % SIDE) + 0.5, Math.floor(i / SIDE) + 0.5);
			// Near the ends of the wall it is not endless.
			if (Math.abs(z) > 8 || x < 0.05) return;
			const off = Math.abs((tones[i] as number) - 255 * 0.5 * (1 - x / Math.hypot(x, high)));
			sum += off;
			most = Math.max(most, off);
			count++;
		});
		expect(count).toBeGreaterThan(500);
		expect(sum / count).toBeLessThan(2);
		expect(most).toBeLessThan(12);
		engine.close();
	}
});

test('what bulges hides nothing from itself, smooth or flat; inside of a tube its far side is hidden', () => {
	for (const mesh of [ball(), { ...ball(), normals: null }]) {
		const engine = open(mesh, [step()], 96);
		const tones = maskOf(engine);
		expect(Math.max(...tones)).toBeLessThanOrEqual(4);
		engine.close();
	}
	const inward: LaidMesh = { ...tube(), normals: null, indices: tube().indices.slice().reverse() };
	const engine = open(inward, [step()], 96);
	const tones = maskOf(engine);
	const map = engine.scene('m')?.mapOf(engine.project.sheets[0] as Sheet);
	const row = (v: number): number => {
		const own = [...(map?.faceOfTexel ?? [])].flatMap((face, i) =>
			face && Math.floor(i / 96) === v ? [tones[i] as number] : [],
		);
		return own.reduce((a, b) => a + b, 0) / own.length;
	};
	// Deep in the middle more is hidden than at the open ends.
	expect(row(33)).toBeGreaterThan(row(12) + 25);
	engine.close();
});

test('a closed box has none outside, and over its seams there is nothing to see', () => {
	const engine = open(box(), [step({ reach: 60, falls: 'off' })]);
	expect(Math.max(...maskOf(engine))).toBe(0);
	engine.close();
});

test('made in slices, or of another tile first, it is the same to the byte; the distance bounds what counts', () => {
	const mesh = blocks();
	const steps = [step({ reach: 30, falls: 'off', rays: 32 })];
	const whole = open(mesh, steps);
	const wanted = Buffer.from(maskOf(whole));
	const sliced = open(mesh, steps);
	sliced.near('s', 100, 100);
	let turn = 0;
	while (sliced.due) sliced.refresh(() => ++turn % 2 === 0);
	expect(Buffer.from(pictureOfSurface(kernels, sliced.surface('w~mask') as Surface).data).equals(wanted)).toBe(true);
	expect(Math.max(...wanted)).toBeGreaterThan(60);
	const nearer = open(mesh, [step({ reach: 4, falls: 'off', rays: 32 })]);
	const less = maskOf(nearer);
	const sum = (list: Iterable<number>): number => [...list].reduce((a, b) => a + b, 0);
	expect(sum(less)).toBeLessThan(sum(wanted) * 0.5);
	for (const engine of [whole, sliced, nearer]) engine.close();
});
