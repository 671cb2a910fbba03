import type { Kernels } from '@eppu/kernels';
import { boxedList, type TablesAt, tablesAt } from '../bake/index.ts';
import type { LaidMesh } from '../mesh/index.ts';
import { latticeValue } from '../raster/index.ts';
import type { StrokesOf } from './rig.ts';

/** Strokes laid over a surface, as `strokeNormals` in kernels/assembly/shade.ts takes them. */
export interface LaidStrokes {
	/** Twenty numbers a stroke. */
	readonly strokes: Float32Array;
	/** Where each box of the grid begins in the list, and the strokes of all boxes, those that lie on top first. */
	readonly from: Uint32Array;
	readonly list: Uint32Array;
	readonly low: number;
	readonly box: number;
	readonly side: number;
}

const STROKE = 20;
/** Strokes that lie over each place, on average. */
const DEEP = 3.5;
const MOST_STROKES = 60_000;
const MOST_BOXES = 48;

type Vec = readonly [number, number, number];
const dot = (a: Vec, b: Vec): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: Vec, b: Vec): Vec => [
	a[1] * b[2] - a[2] * b[1],
	a[2] * b[0] - a[0] * b[2],
	a[0] * b[1] - a[1] * b[0],
];
const along = (a: Vec, by: number, b: Vec, and: number): Vec => [
	a[0] * by + b[0] * and,
	a[1] * by + b[1] * and,
	a[2] * by + b[2] * and,
];
const unit = (a: Vec): Vec => along(a, 1 / (Math.hypot(...a) || 1), a, 0);

/** Lays strokes over all of a mesh, spread by area; the same mesh and settings always give the same. */
export function layStrokes(mesh: LaidMesh, of: StrokesOf): LaidStrokes {
	const { positions, normals, indices } = mesh;
	const faces = indices.length / 3;
	const at = (list: Float32Array, v: number): Vec => [list[v * 3], list[v * 3 + 1], list[v * 3 + 2]] as unknown as Vec;
	const corners = (face: number, list: Float32Array): readonly [Vec, Vec, Vec] =>
		[0, 1, 2].map((k) => at(list, indices[face * 3 + k] as number)) as unknown as readonly [Vec, Vec, Vec];
	const crossOf = (face: number): Vec => {
		const [a, b, c] = corners(face, positions);
		return cross(along(b, 1, a, -1), along(c, 1, a, -1));
	};
	const [halfWide, halfLong] = [of.size / 2, (of.size * of.length) / 2];
	let area = 0;
	for (let face = 0; face < faces; face++) area += Math.hypot(...crossOf(face)) / 2;
	const density = Math.min(DEEP / (4 * halfWide * halfLong * 0.7), MOST_STROKES / (area || 1));
	const records: number[] = [];
	const chance = (face: number, n: number, what: number): number => latticeValue(face, n, what, of.seed);
	for (let face = 0; face < faces; face++) {
		const doubled = crossOf(face);
		const flat = unit(doubled);
		const many = Math.floor((Math.hypot(...doubled) / 2) * density + chance(face, 0, 1));
		const [a, b, c] = corners(face, positions);
		for (let n = 0; n < many; n++) {
			// Places of a sequence that leaves no clumps: M. Roberts' R2 (2018).
			let u = (0.5 + n * 0.7548776662466927 + chance(face, 0, 2)) % 1;
			let v = (0.5 + n * 0.5698402909980532 + chance(face, 0, 3)) % 1;
			if (u + v > 1) [u, v] = [1 - u, 1 - v];
			const mixed = ([p, q, r]: readonly [Vec, Vec, Vec]): Vec => along(along(p, 1 - u - v, q, u), 1, r, v);
			const smooth = normals ? unit(mixed(corners(face, normals))) : flat;
			const normal = dot(smooth, flat) > 0.05 ? smooth : flat;
			// Down the form; on what is level, towards the front.
			const down: Vec = Math.abs(normal[1]) > 0.985 ? [0, 0, 1] : [0, -1, 0];
			const form = unit(along(down, 1, normal, -dot(down, normal)));
			const side = cross(normal, form);
			const turn = ((of.turn + (chance(face, n, 4) - 0.5) * 36) * Math.PI) / 180;
			const way = along(form, Math.cos(turn), side, Math.sin(turn));
			const across = cross(normal, way);
			const tilt = of.contrast * 0.7;
			const lays = unit(
				along(along(normal, 1, way, (chance(face, n, 5) - 0.5) * tilt), 1, across, (chance(face, n, 6) - 0.5) * tilt),
			);
			const sized = 0.75 + 0.5 * chance(face, n, 7);
			records.push(...mixed([a, b, c]), ...way, ...across, ...normal, ...lays, chance(face, n, 8) - 0.5);
			records.push(1 / (halfLong * sized), 1 / (halfWide * sized), 1 / Math.max(0.04, 1 - of.edge), 0);
		}
	}
	const strokes = Float32Array.from(records);
	const numbers = new Uint32Array(strokes.buffer);
	const count = strokes.length / STROKE;
	for (let i = 0; i < count; i++) numbers[i * STROKE + 19] = i;
	return { strokes, ...gridOf(mesh, strokes, count, halfLong, of.seed) };
}

function gridOf(mesh: LaidMesh, strokes: Float32Array, count: number, reach: number, seed: number) {
	let [low, high] = [Infinity, -Infinity];
	for (const v of mesh.positions) [low, high] = [Math.min(low, v), Math.max(high, v)];
	const box = Math.max(reach, (high - low) / MOST_BOXES) || 1;
	const side = Math.min(MOST_BOXES, Math.max(1, Math.ceil((high - low) / box)));
	const order = Array.from({ length: count }, (_, i) => [latticeValue(i, 5, 9, seed), i] as const).sort(
		(a, b) => a[0] - b[0] || a[1] - b[1],
	);
	const cell = (v: number): number => Math.min(side - 1, Math.max(0, Math.floor((v - low) / box)));
	const eachBox = (i: number, visit: (box: number) => void): void => {
		const s = (k: number): number => strokes[i * STROKE + k] as number;
		const [long, wide] = [1 / s(16), 1 / s(17)];
		const span = [0, 1, 2].map((k) => {
			const by = Math.abs(s(3 + k)) * long + Math.abs(s(6 + k)) * wide + Math.abs(s(9 + k)) * 1.5 * wide;
			return [cell(s(k) - by), cell(s(k) + by)] as const;
		}) as [readonly [number, number], readonly [number, number], readonly [number, number]];
		for (let z = span[2][0]; z <= span[2][1]; z++)
			for (let y = span[1][0]; y <= span[1][1]; y++)
				for (let x = span[0][0]; x <= span[0][1]; x++) visit((z * side + y) * side + x);
	};
	const boxed = boxedList(side ** 3, (visit) => {
		for (const [, i] of order) eachBox(i, (n) => visit(n, i));
	});
	return { ...boxed, low, box, side };
}

/** Strokes over a mesh in the kernels' memory, kept at hand. */
export const strokesAt = (
	kernels: Kernels,
	mesh: LaidMesh,
	of: StrokesOf,
): TablesAt<Pick<LaidStrokes, 'low' | 'box' | 'side'>> =>
	tablesAt(kernels, mesh, `strokes ${JSON.stringify(of)}`, () => {
		const { strokes, from, list, ...grid } = layStrokes(mesh, of);
		return { tables: [strokes, from, list], of: grid };
	});
