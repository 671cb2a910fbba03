/** Relief: light falls on what stands out as on a surface that leans so, on any side of a model and over its seams. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import fc from 'fast-check';
import {
	adjustLayer,
	groupLayer,
	type Layer,
	lightLayer,
	paintLayer,
	raisedUnder,
	type Sheet,
	washLayer,
} from '../src/document/index.ts';
import { type Engine, openEngine } from '../src/engine/index.ts';
import { type Relief, risesOver } from '../src/light/index.ts';
import { type LaidMesh, meshBounds } from '../src/mesh/index.ts';
import { modelGround } from '../src/scene/index.ts';
import { pictureOfSurface, type Surface } from '../src/surface/index.ts';
import { masked, step } from './oracle/derived.ts';
import { lightAt, presetRig } from './oracle/light.ts';
import { box, projectOf, tube } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

type Vec = readonly [number, number, number];
const dot = (a: Vec, b: Vec): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const rig = presetRig('Warm', { strokes: null, steps: 0, rise: { ...presetRig('Warm').rise, strength: 0 } });
const tone: Relief = { from: 'tone', height: 4, soft: 0 };
const raised = (relief: Relief, change: object = {}): Layer => paintLayer('p', 'Paint', { relief, ...change });
const open = (mesh: LaidMesh | null, layers: readonly Layer[], side: number): Engine => {
	const project = projectOf(mesh ?? box(), side, layers);
	return openEngine(kernels, mesh ? project : { ...project, models: [] }, [], new Map(mesh ? [['m', mesh]] : []));
};
const sheetOf = (engine: Engine): Sheet => engine.project.sheets[0] as Sheet;
const lightOf = (engine: Engine): Uint8Array => {
	while (engine.due) engine.refresh(() => false);
	return pictureOfSurface(kernels, engine.surface('l~fill') as Surface).data;
};
/** Paints grey tones, opaque. */
const lay = (engine: Engine, side: number, toneAt: (x: number, y: number) => number): void => {
	const data = new Uint8Array(side * side * 4);
	for (let i = 0; i < side * side; i++) {
		const v = Math.round(255 * toneAt(i % side, Math.floor(i / side)));
		data.set([v, v, v, 255], i * 4);
	}
	engine.lay('s', 'p', 'color', { width: side, height: side, data }, 'Tones');
};
/** Mean difference of lights, 0..255, over the texels that `counts` names. */
const apart = (data: Uint8Array, wanted: (i: number) => readonly number[], counts: (i: number) => boolean): number => {
	let [sum, n] = [0, 0];
	for (let i = 0; i < data.length / 4; i++) {
		if (!counts(i)) continue;
		const want = wanted(i);
		for (let k = 0; k < 3; k++) sum += Math.abs((data[i * 4 + k] as number) - (want[k] as number));
		n += 3;
	}
	return sum / n;
};

test('what a height rises by is the part of its gradient that lies in the surface, whatever way texels run on it', () => {
	const part = fc.double({ min: -2, max: 2, noNaN: true });
	const vec = fc.tuple(part, part, part);
	fc.assert(
		fc.property(vec, vec, vec, (across, down, gradient) => {
			const [e, f, g] = [dot(across, across), dot(across, down), dot(down, down)];
			fc.pre(e * g - f * f > 0.05);
			const [a, b] = risesOver(across, down);
			const [du, dv] = [dot(gradient, across), dot(gradient, down)];
			const rises = a.map((v, k) => v * du + (b[k] as number) * dv) as unknown as Vec;
			// It lies in the surface, and over it rises as the gradient does.
			expect(dot(rises, across)).toBeCloseTo(du, 6);
			expect(dot(rises, down)).toBeCloseTo(dv, 6);
			const normal: Vec = [
				across[1] * down[2] - across[2] * down[1],
				across[2] * down[0] - across[0] * down[2],
				across[0] * down[1] - across[1] * down[0],
			];
			expect(dot(rises, normal)).toBeCloseTo(0, 6);
		}),
	);
	expect(
		risesOver([1, 0, 0], [2, 0, 0])
			.flat()
			.every((v) => v === 0),
	).toBe(true);
});

test('a ramp on a sheet without a model is lit as a surface that leans by it', () => {
	for (const [height, way] of [
		[8, 1],
		[-8, -1],
	] as const) {
		const engine = open(null, [raised({ from: 'tone', height, soft: 4 }), lightLayer('l', 'Light', rig)], 128);
		lay(engine, 128, (x) => x / 127);
		const slope = (8 / 127 / (100 / 128)) * way;
		const n = [-slope, 0, 1].map((v) => v / Math.hypot(slope, 1)) as unknown as Vec;
		// Rims of the blur go on as they are.
		const middle = (i: number): boolean => i % 128 > 20 && i % 128 < 108;
		expect(apart(lightOf(engine), () => lightAt(rig, n), middle)).toBeLessThan(1);
		// And it is not the light of what is level.
		expect(apart(lightOf(engine), () => lightAt(rig, [0, 0, 1]), middle)).toBeGreaterThan(2);
		engine.close();
	}
});

test('waves that run through a box are lit on each of its sides as the leaning surface is', () => {
	const [side, mesh] = [256, box()];
	const engine = open(mesh, [raised(tone), lightLayer('l', 'Light', rig)], side);
	const sheet = sheetOf(engine);
	const scene = engine.scene('m');
	if (!scene) throw new Error('no scene');
	const ground = modelGround(scene, sheet);
	const faces = scene.mapOf(sheet).faceOfTexel;
	const { center, radius } = meshBounds(mesh);
	const way: Vec = [0.09, 0.14, -0.11];
	const placeAt = (x: number, y: number): Vec =>
		ground
			.placeOf((faces[y * side + x] as number) - 1, x + 0.5, y + 0.5)
			.map((v, k) => ((v - (center[k] as number)) * 50) / radius) as unknown as Vec;
	const inside = (i: number): boolean => (faces[i] as number) > 0;
	lay(engine, side, (x, y) => (inside(y * side + x) ? 0.5 + 0.5 * Math.sin(dot(way, placeAt(x, y))) : 0));
	const flat = new Uint8Array(side * side * 4);
	const wanted = (i: number): number[] => {
		const v = mesh.indices[((faces[i] as number) - 1) * 3] as number;
		const n = [0, 1, 2].map((k) => mesh.normals?.[v * 3 + k]) as unknown as Vec;
		const change = tone.height * 0.5 * Math.cos(dot(way, placeAt(i % side, Math.floor(i / side))));
		const gradient = way.map((each) => each * change) as unknown as Vec;
		const leaned = n.map((each, k) => each - (gradient[k] as number) + dot(gradient, n) * each);
		const length = Math.hypot(...leaned);
		return lightAt(rig, leaned.map((each) => each / length) as unknown as Vec);
	};
	// Tones have 256 steps, which the slopes show.
	expect(apart(lightOf(engine), wanted, inside)).toBeLessThan(3);
	expect(apart(flat, wanted, inside)).toBeGreaterThan(30);
	engine.close();
});

test('over a seam it goes on, and the bleed goes on as the border does', () => {
	const side = 256;
	const layers = [raised({ ...tone, height: 3, soft: 1 }), lightLayer('l', 'Light', rig)];
	const round = tube();
	// As the tube that it stands for, on both sides of its seam.
	const normals = round.positions.map((v, i) => {
		const [x, z] = [round.positions[i - (i % 3)] as number, round.positions[i - (i % 3) + 2] as number];
		return i % 3 === 1 ? 0 : v / Math.hypot(x, z);
	});
	const engine = open({ ...round, normals }, layers, side);
	const sheet = sheetOf(engine);
	const scene = engine.scene('m');
	if (!scene) throw new Error('no scene');
	const map = scene.mapOf(sheet);
	const ground = modelGround(scene, sheet);
	lay(engine, side, (x, y) => {
		const face = (map.faceOfTexel[y * side + x] as number) - 1;
		const [a, b, c] = face < 0 ? [0, 0, 0] : ground.placeOf(face, x + 0.5, y + 0.5);
		return 0.5 + 0.25 * Math.sin(a * 5) + 0.25 * Math.sin(b * 3 + c * 4);
	});
	const data = lightOf(engine);
	const [left, right] = [Math.ceil(0.1 * side), Math.floor(0.9 * side) - 1];
	let [over, beside, rows] = [0, 0, 0];
	for (let y = 40; y < 140; y++)
		for (let k = 0; k < 3; k++) {
			const at = (x: number): number => data[(y * side + x) * 4 + k] as number;
			over += Math.abs(at(left) - at(right));
			beside += Math.abs(at(left) - at(left + 1));
			rows++;
		}
	expect(over / rows).toBeLessThan(2 + beside / rows);
	const words = new Uint32Array(pictureOfSurface(kernels, engine.surface('p~p~0~slopes') as Surface).data.buffer);
	expect(new Set(map.gutterSource.map((source) => words[source] as number)).size).toBeGreaterThan(100);
	map.gutterTexel.forEach((texel, g) => {
		if (words[texel] !== words[map.gutterSource[g] as number]) throw new Error(`the bleed at ${texel} leans otherwise`);
	});
	engine.close();
});

test('only what is shown stands out, held to what it is clipped to and to the masks of its groups; undo lays it flat', () => {
	const shape: Relief = { from: 'shape', height: 2, soft: 1 };
	const names = (layers: readonly Layer[]): string[] => {
		const sheet = { ...(projectOf(box(), 64, [...layers, lightLayer('l', 'Light', rig)]).sheets[0] as Sheet) };
		return raisedUnder(sheet, 'l').map(({ layer, bases, groups }) =>
			[layer, ...bases, ...groups].map(({ id }) => id).join(' '),
		);
	};
	const p = (id: string, change: object = {}): Layer => paintLayer(id, id, { relief: shape, ...change });
	expect(names([p('a'), p('b', { clip: true }), p('c', { shown: false }), p('d', { clip: true })])).toEqual([
		'a',
		'b a',
	]);
	expect(names([groupLayer('g', 'G', [p('a'), p('b', { relief: null })]), p('c')])).toEqual(['a g', 'c']);
	expect(names([groupLayer('g', 'G', [p('a')], { shown: false })])).toEqual([]);
	const group = masked(groupLayer('g', 'G', [washLayer('p', 'All', '#ffffff', { relief: shape })]), [
		step('clouds', { mix: 'replace' }),
	]);
	const engine = open(box(), [group, lightLayer('l', 'Light', rig)], 96);
	const before = Buffer.from(lightOf(engine));
	engine.run({ do: 'layer.change', sheet: 's', layer: 'g', change: { mask: null } });
	const bare = Buffer.from(lightOf(engine));
	engine.run({ do: 'layer.change', sheet: 's', layer: 'p', change: { relief: null } });
	const level = Buffer.from(lightOf(engine));
	// All of it raised alike is level; what the mask ends somewhere has rims.
	expect(bare.equals(level)).toBe(true);
	expect(before.equals(level)).toBe(false);
	engine.undo();
	engine.undo();
	expect(Buffer.from(lightOf(engine)).equals(before)).toBe(true);
	const lift = (layer: string) => () =>
		engine.run({ do: 'layer.change', sheet: 's', layer, change: { relief: { ...shape, height: 99 } } });
	expect(lift('p')).toThrow(/relief|height/);
	engine.close();
	const toned = open(box(), [adjustLayer('t', 'Tones', { op: 'blur', radius: 2 })], 64);
	expect(() => toned.run({ do: 'layer.change', sheet: 's', layer: 't', change: { relief: shape } })).toThrow(
		'"Tones" has no shape that could stand out. Nothing was changed.',
	);
	toned.close();
});

test('made in slices, or painted stroke by stroke, it is what it is made in one', () => {
	const [side, shape] = [192, { from: 'shape', height: 2, soft: 3 } as const];
	const layers = [raised(shape), lightLayer('l', 'Light', rig)];
	const whole = open(box(), layers, side);
	const blots = (x: number, y: number): number => ((x * 7 + y * 3) % 50 < 22 ? 1 : 0);
	lay(whole, side, blots);
	const wanted = Buffer.from(lightOf(whole));
	const sliced = open(box(), layers, side);
	sliced.refresh(() => false);
	lay(sliced, side, () => 0.3);
	lay(sliced, side, blots);
	let turn = 0;
	while (sliced.due) sliced.refresh(() => ++turn % 2 === 0);
	expect(Buffer.from(pictureOfSurface(kernels, sliced.surface('l~fill') as Surface).data).equals(wanted)).toBe(true);
	for (const each of [whole, sliced]) each.close();
});

test('it goes out as heights, and as normals that give the slopes back, green up or down', () => {
	const side = 128;
	const engine = open(null, [raised({ from: 'tone', height: 8, soft: 2 })], side);
	lay(engine, side, (x, y) => 0.2 + 0.5 * (x / 127) + 0.3 * (y / 127));
	const look = (name: string): Uint16Array => engine.reliefPicture('s', name).data;
	const middle = Array.from({ length: 40 * 40 }, (_, i) => ((i % 40) + 44 + (Math.floor(i / 40) + 44) * side) * 4);
	const [texel, heights, up, down] = [100 / side, look('heights'), look('normals'), look('normals-down')];
	const mean = (data: Uint16Array, k: number): number =>
		middle.reduce((sum, at) => sum + (data[at + k] as number) / 65535, 0) / middle.length;
	for (const at of middle) {
		const [x, y] = [(at / 4) % side, Math.floor(at / 4 / side)];
		expect(Math.abs((heights[at] as number) / 65535 - (0.5 + (0.2 + (0.5 * x + 0.3 * y) / 127) / 2))).toBeLessThan(
			0.003,
		);
		expect((up[at + 1] as number) + (down[at + 1] as number)).toBeLessThanOrEqual(65536);
	}
	// Across it rises to the right, and down: v goes up.
	const [a, b] = [(8 * 0.5) / 127 / texel, (8 * 0.3) / 127 / texel];
	const length = Math.hypot(a, b, 1);
	[-a, b, 1].forEach((v, k) => {
		expect(Math.abs(mean(up, k) - (0.5 + v / length / 2))).toBeLessThan(0.002);
		expect(Math.abs(mean(down, k) - (0.5 + (k === 1 ? -v : v) / length / 2))).toBeLessThan(0.002);
	});
	expect(() => look('gloss')).toThrow(/no look "gloss"/);
	engine.run({ do: 'layer.change', sheet: 's', layer: 'p', change: { shown: false } });
	expect(() => look('heights')).toThrow(/Nothing stands out on/);
	engine.close();
});

test('on a model its normals are those that light falls on, in the model’s own axes and in the surface’s', () => {
	const [side, mesh] = [128, box()];
	const engine = open(mesh, [raised(tone), lightLayer('l', 'Light', rig)], side);
	lay(engine, side, (x, y) => 0.5 + 0.5 * Math.sin(x / 9) * Math.cos(y / 7));
	const light = lightOf(engine);
	const object = engine.reliefPicture('s', 'normals-object').data;
	const tangent = engine.reliefPicture('s', 'normals').data;
	const faces = engine.scene('m')?.mapOf(sheetOf(engine)).faceOfTexel ?? [];
	const vecAt = (data: Uint16Array, i: number): Vec =>
		[0, 1, 2].map((k) => ((data[i * 4 + k] as number) / 65535) * 2 - 1) as unknown as Vec;
	let seen = 0;
	for (let i = 0; i < side * side; i++) {
		const face = (faces[i] as number) - 1;
		if (face < 0) continue;
		const n = vecAt(object, i);
		lightAt(rig, n).forEach((v, k) => expect(Math.abs(v - (light[i * 4 + k] as number))).toBeLessThanOrEqual(1.5));
		// How far it leans is the same in both.
		const flat = [0, 1, 2].map((k) => mesh.normals?.[(mesh.indices[face * 3] as number) * 3 + k]) as unknown as Vec;
		expect(Math.abs(vecAt(tangent, i)[2] - dot(n, flat))).toBeLessThan(2e-3);
		seen++;
	}
	expect(seen).toBeGreaterThan(3000);
	engine.close();
});
