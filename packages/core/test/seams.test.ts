/** Edges that are pointed at, loops and ways of them, and the marks at which a model is to be cut. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import { type Engine, openEngine } from '../src/engine/index.ts';
import { topologyOf } from '../src/mesh/index.ts';
import { homeCamera } from '../src/projection/index.ts';
import { edgeLength, type Joints, jointsOf, loopOf, placeOf, wayBetween } from '../src/unwrap/index.ts';
import { box, projectOf, tube } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});
let named = 0;
const newId = (): string => `n${++named}`;
const opened = (mesh = box()): Engine => openEngine(kernels, projectOf(mesh, 128), [], new Map([['m', mesh]]));
const jointsFor = (mesh = tube()): Joints => jointsOf(mesh, topologyOf(mesh).place);
const y = ({ mesh }: Joints, corner: number): number =>
	mesh.positions[(mesh.indices[corner] as number) * 3 + 1] as number;
const ends = (joints: Joints, corner: number): number[] => [
	placeOf(joints, corner),
	placeOf(joints, corner % 3 === 2 ? corner - 2 : corner + 1),
];

test('a loop around a tube is the whole ring, one down its side goes from rim to rim', () => {
	const joints = jointsFor();
	const corners = [...joints.mesh.indices.keys()];
	const level = (corner: number): boolean => {
		const [a, b] = ends(joints, corner) as [number, number];
		return Math.abs((joints.mesh.positions[a * 3 + 1] as number) - (joints.mesh.positions[b * 3 + 1] as number)) < 1e-6;
	};
	const around = loopOf(joints, corners.find((corner) => level(corner) && Math.abs(y(joints, corner)) < 1) as number);
	expect(around).toHaveLength(24);
	expect(around.every(level)).toBe(true);
	const upright = corners.find((corner) => {
		const [a, b] = ends(joints, corner) as [number, number];
		const at = (v: number, k: number): number => joints.mesh.positions[v * 3 + k] as number;
		return Math.abs(at(a, 0) - at(b, 0)) < 1e-6 && Math.abs(at(a, 2) - at(b, 2)) < 1e-6;
	}) as number;
	expect(loopOf(joints, upright)).toHaveLength(6);
});

test('the way between two edges hangs together and is the shortest that there is', () => {
	const joints = jointsFor();
	const [from, to] = [0, joints.mesh.indices.length - 2];
	const way = wayBetween(joints, from, to);
	expect(way).toEqual(expect.arrayContaining([from, to]));
	// Every edge of it shares an end with another.
	for (const corner of way) {
		const mine = ends(joints, corner);
		expect(way.some((other) => other !== corner && ends(joints, other).some((end) => mine.includes(end)))).toBe(true);
	}
	// Bellman and Ford's relaxation over all edges, as an oracle for its length.
	const cost = new Map<number, number>(ends(joints, from).map((end) => [end, 0]));
	for (let round = 0; round < 60; round++)
		for (const corner of joints.mesh.indices.keys()) {
			const [a, b] = ends(joints, corner) as [number, number];
			const long = edgeLength(joints, corner);
			for (const [p, q] of [
				[a, b],
				[b, a],
			] as const)
				if ((cost.get(p) ?? Infinity) + long < (cost.get(q) ?? Infinity)) cost.set(q, (cost.get(p) as number) + long);
		}
	const least = Math.min(...ends(joints, to).map((end) => cost.get(end) as number));
	const between = way.filter((corner) => corner !== from && corner !== to);
	expect(between.reduce((sum, corner) => sum + edgeLength(joints, corner), 0)).toBeCloseTo(least, 5);
});

test('marks are kept from both sides, added to, taken away and undone', () => {
	const engine = opened();
	expect(engine.seams('m').some(Boolean)).toBe(false);
	engine.markSeams('m', { corners: [0, 4], on: true }, 'Mark seams', newId);
	const joints = jointsOf(box(), topologyOf(box()).place);
	const marked = engine.seams('m');
	expect([marked[0], marked[4]]).toEqual([1, 1]);
	for (const corner of [0, 4]) {
		const other = joints.across[corner] as number;
		if (other >= 0) expect(marked[other]).toBe(1);
	}
	engine.markSeams('m', { corners: [4], on: false }, 'Clear a seam', newId);
	expect(engine.seams('m')[4]).toBe(0);
	expect(engine.seams('m')[0]).toBe(1);
	engine.undo();
	expect(engine.seams('m')).toEqual(marked);
	const { project, tiles } = engine.whole();
	const anew = openEngine(kernels, project, tiles, new Map([['m', box()]]));
	expect(anew.seams('m')).toEqual(marked);
	engine.markSeams('m', { corners: [], on: true, anew: true }, 'Clear all seams', newId);
	expect(engine.project.models[0]?.seams).toBeNull();
	expect(() => engine.markSeams('x', { corners: [0], on: true }, 'Mark', newId)).toThrow(/not in this project/);
});

test('the edge that is nearest to what is pointed at, on the model and on the sheet', () => {
	const engine = opened();
	const scene = engine.scene('m') as NonNullable<ReturnType<Engine['scene']>>;
	const sheet = engine.project.sheets[0] as Engine['project']['sheets'][0];
	const sight = { camera: { ...homeCamera, yaw: 0, pitch: 0, distance: 8 }, width: 300, height: 300 };
	expect(scene.edgeAt(sight, 2, 2)).toBe(-1);
	expect(scene.edgeOn(sheet, 0.5, 0.5)).toBe(-1);
	const { mesh } = scene;
	for (let corner = 0; corner < mesh.indices.length; corner++) {
		// A hair inside the face, beside the middle of the edge.
		const place = (k: number): [number, number] => {
			const v = (mesh.indices[Math.floor(corner / 3) * 3 + (k % 3)] as number) * 2;
			return [(mesh.uvs[v] as number) * 128, (mesh.uvs[v + 1] as number) * 128];
		};
		const [[ax, ay], [bx, by], [cx, cy]] = [place(corner), place(corner + 1), place(corner + 2)];
		const [x, y] = [0.46 * (ax + bx) + 0.08 * cx, 0.46 * (ay + by) + 0.08 * cy];
		expect(scene.edgeOn(sheet, x, y)).toBe(corner);
	}
});
