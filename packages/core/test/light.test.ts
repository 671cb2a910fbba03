/** Light: as a plain twin works it out, the same over seams, in strokes that are the same however a sheet is cut up. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import { lightLayer, type Sheet } from '../src/document/index.ts';
import { type Engine, openEngine } from '../src/engine/index.ts';
import { layStrokes, lightPresets, type Rig, tonedColor } from '../src/light/index.ts';
import type { LaidMesh } from '../src/mesh/index.ts';
import { pictureOfSurface, type Surface } from '../src/surface/index.ts';
import { lightAt, presetRig } from './oracle/light.ts';
import { ball, box, projectOf, tube } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const open = (mesh: LaidMesh | null, rig: Rig, side = 128): Engine => {
	const layers = [lightLayer('l', 'Light', rig)];
	const project = projectOf(mesh ?? box(), side, layers);
	return openEngine(kernels, mesh ? project : { ...project, models: [] }, [], new Map(mesh ? [['m', mesh]] : []));
};
const lightOf = (engine: Engine): Uint8Array => {
	engine.refresh(() => false);
	return pictureOfSurface(kernels, engine.surface('l~fill') as Surface).data;
};

test('every light is as a plain twin works it out, on each side of a box', () => {
	const mesh = box();
	for (const { name } of lightPresets)
		for (const steps of [0, 1, 3]) {
			const rig = presetRig(name, { strokes: null, steps, rise: { ...presetRig(name).rise, strength: 0 } });
			const engine = open(mesh, rig, 96);
			const data = lightOf(engine);
			const faces = engine.scene('m')?.mapOf(engine.project.sheets[0] as Sheet).faceOfTexel ?? [];
			let seen = 0;
			faces.forEach((face, i) => {
				if (!face) return;
				const v = mesh.indices[(face - 1) * 3] as number;
				const n = [0, 1, 2].map((k) => mesh.normals?.[v * 3 + k]) as [number, number, number];
				const wanted = lightAt(rig, n);
				for (let k = 0; k < 3; k++)
					if (Math.abs((data[i * 4 + k] as number) - (wanted[k] as number)) > 1)
						throw new Error(`${name}, ${steps} steps: ${data[i * 4 + k]} for ${wanted[k]} at ${n}`);
				seen++;
			});
			expect(seen).toBeGreaterThan(1000);
			expect(data[3]).toBe(0);
			engine.close();
		}
});

test('the rise lies at the bottom and is gone where it ends; warmth and chroma change the colour of shade', () => {
	const rig = presetRig('Hollows only', {
		rise: { color: '#402010', strength: 1, from: 0, to: 0.5 },
	});
	const engine = open(tube(), rig);
	const data = lightOf(engine);
	const row = (y: number): number => data[(y * 128 + 64) * 4 + 1] as number;
	expect(row(20)).toBe(255);
	expect(row(74)).toBeLessThan(60);
	for (let y = 20; y < 74; y++) expect(row(y + 1)).toBeLessThanOrEqual(row(y));
	engine.close();
	const [grey, warm, cool] = [0, 1, -1].map((warmth) => tonedColor('#808080', { warmth, chroma: 1 })) as unknown as [
		number[],
		number[],
		number[],
	];
	expect((warm[0] as number) - (warm[2] as number)).toBeGreaterThan(0.15);
	expect((cool[2] as number) - (cool[0] as number)).toBeGreaterThan(0.15);
	expect(Math.max(...grey) - Math.min(...grey)).toBeLessThan(0.01);
	const pale = tonedColor('#804040', { warmth: 0, chroma: 0 });
	expect(Math.max(...pale) - Math.min(...pale)).toBeLessThan(0.02);
});

test('in strokes light shows no seam: what lies on both sides of one is alike', () => {
	const strokes = { size: 8, length: 3, turn: 0, edge: 0.7, contrast: 0.5, seed: 4 };
	const engine = open(tube(), presetRig('Warm', { strokes }), 256);
	const data = lightOf(engine);
	// The tube is one island: its left border goes on at its right one.
	const [left, right] = [Math.ceil(0.1 * 256), Math.floor(0.9 * 256) - 1];
	let [over, beside, rows] = [0, 0, 0];
	for (let y = 40; y < 140; y++)
		for (let k = 0; k < 3; k++) {
			const at = (x: number): number => data[(y * 256 + x) * 4 + k] as number;
			over += Math.abs(at(left) - at(right));
			beside += Math.abs(at(left) - at(left + 1));
			rows++;
		}
	expect(over / rows).toBeLessThan(2 + beside / rows);
	// Strokes are there: light is not as smooth as without.
	const plain = open(tube(), presetRig('Warm', { strokes: null }), 256);
	const smooth = lightOf(plain);
	let differs = 0;
	for (let i = 0; i < data.length; i++) differs += Math.abs((data[i] as number) - (smooth[i] as number));
	expect(differs / data.length).toBeGreaterThan(1);
	for (const each of [engine, plain]) each.close();
});

test('made in slices, or beginning elsewhere, light is the same to the byte', () => {
	const rig = presetRig('Under leaves');
	const whole = open(ball(), rig, 192);
	const wanted = Buffer.from(lightOf(whole));
	const sliced = open(ball(), rig, 192);
	sliced.near('s', 180, 180);
	let turn = 0;
	while (sliced.due) sliced.refresh(() => ++turn % 2 === 0);
	expect(Buffer.from(pictureOfSurface(kernels, sliced.surface('l~fill') as Surface).data).equals(wanted)).toBe(true);
	for (const each of [whole, sliced]) each.close();
});

test('strokes lie over all of a surface, as many as are asked for, the same each time and others with another chance', () => {
	const of = { size: 6, length: 3, turn: 0, edge: 0.7, contrast: 0.5, seed: 1 };
	const mesh: LaidMesh = { ...ball(), positions: ball().positions.map((v) => v * 38) };
	const one = layStrokes(mesh, of);
	expect(Buffer.from(layStrokes(mesh, of).strokes.buffer).equals(Buffer.from(one.strokes.buffer))).toBe(true);
	expect(Buffer.from(layStrokes(mesh, { ...of, seed: 2 }).strokes.buffer).equals(Buffer.from(one.strokes.buffer))).toBe(
		false,
	);
	const finer = layStrokes(mesh, { ...of, size: 3 });
	expect(finer.strokes.length / one.strokes.length).toBeGreaterThan(3.4);
	expect(finer.strokes.length / one.strokes.length).toBeLessThan(4.6);
	// Each has a frame of its own that stands upright on the surface.
	for (let i = 0; i < one.strokes.length; i += 20) {
		const at = (k: number): number[] => [...one.strokes.subarray(i + k, i + k + 3)];
		const dot = (a: number[], b: number[]): number => a.reduce((sum, v, k) => sum + v * (b[k] as number), 0);
		expect(Math.abs(dot(at(3), at(6)))).toBeLessThan(1e-4);
		expect(Math.abs(dot(at(3), at(9)))).toBeLessThan(1e-4);
		expect(Math.hypot(...at(0))).toBeCloseTo(1.3 * 38, -0.6);
	}
});

test('a sheet without a model is lit as one that is seen from the front', () => {
	const rig = presetRig('Warm', { strokes: null, rise: { ...presetRig('Warm').rise, strength: 0 } });
	const engine = open(null, rig, 64);
	const data = lightOf(engine);
	const wanted = lightAt(rig, [0, 0, 1]);
	for (let k = 0; k < 3; k++) expect(Math.abs((data[k] as number) - (wanted[k] as number))).toBeLessThanOrEqual(1);
	expect(data.every((v, i) => v === data[i % 4])).toBe(true);
	engine.close();
	const broken = open(null, presetRig('Warm'), 128);
	expect(new Set(lightOf(broken)).size).toBeGreaterThan(10);
	broken.close();
});
