import { faceNormals, type LaidMesh, type Mesh, meshBounds, type SharpEdge, sharpEdges } from '../mesh/index.ts';
import { boxedList } from './tables.ts';

/** How a surface bends, in the mesh's own units. */
export interface Bend {
	/**
	 * How fast the surface turns away at each corner of each face, radians a unit, as the sum over both ways: above 0 where
	 * it stands out. Over a face it lies between the three.
	 */
	readonly corners: Float32Array;
	/** The edges that are hard, as `bendCells` in kernels/assembly/bend.ts takes them where `width` counts. */
	edges(width: number): EdgeGrid;
}

/** Hard edges, sorted into the boxes of a grid: thirteen numbers an edge. */
export interface EdgeGrid {
	readonly edges: Float32Array;
	readonly from: Uint32Array;
	readonly list: Uint32Array;
	readonly low: Vec;
	readonly box: number;
	readonly side: number;
}

type Vec = readonly [number, number, number];

/** Corners that share a place and go on into each other over edges that are not hard, by the first of them. */
function smoothCorners(mesh: Mesh, edges: readonly SharpEdge[], angle: number): Uint32Array {
	const { positions, indices } = mesh;
	const parent = Uint32Array.from(indices.keys());
	const root = (corner: number): number => {
		let at = corner;
		while (parent[at] !== at) at = parent[at] = parent[parent[at] as number] as number;
		return at;
	};
	const near = (a: number, b: number): number => {
		const [v, w] = [(indices[a] as number) * 3, (indices[b] as number) * 3];
		return [0, 1, 2].reduce((sum, k) => sum + ((positions[v + k] as number) - (positions[w + k] as number)) ** 2, 0);
	};
	for (const { sides, angle: turned } of edges) {
		const [one, other] = sides;
		if (!other || !one || turned >= angle) continue;
		const [a, b] = [one.face * 3 + one.corner, one.face * 3 + ((one.corner + 1) % 3)];
		const [c, d] = [other.face * 3 + other.corner, other.face * 3 + ((other.corner + 1) % 3)];
		// Neighbours run along their edge the other way, where they are wound alike.
		for (const [from, to] of near(a, d) + near(b, c) <= near(a, c) + near(b, d)
			? [
					[a, d],
					[b, c],
				]
			: [
					[a, c],
					[b, d],
				])
			parent[root(from as number)] = root(to as number);
	}
	return parent.map((_, corner) => root(corner));
}

/**
 * How a mesh bends: over edges that turn less than `angle` degrees smoothly, as the gradient of the normals that are the
 * faces' means there by area; others are hard. Source of the first: the trace of the shape operator, M. do Carmo,
 * "Differential Geometry of Curves and Surfaces" (1976).
 */
export function bendOf(mesh: Mesh, angle: number): Bend {
	const { positions, indices } = mesh;
	const all = sharpEdges(mesh, 0);
	const { normals, areas } = faceNormals(mesh);
	const group = smoothCorners(mesh, all, angle);
	const smooth = new Float32Array(indices.length * 3);
	for (let corner = 0; corner < indices.length; corner++) {
		const [face, to] = [Math.floor(corner / 3), (group[corner] as number) * 3];
		for (let k = 0; k < 3; k++)
			smooth[to + k] = (smooth[to + k] as number) + (normals[face * 3 + k] as number) * (areas[face] as number);
	}
	const normalOf = (corner: number): Vec => {
		const at = (group[corner] as number) * 3;
		const n = [smooth[at], smooth[at + 1], smooth[at + 2]] as unknown as Vec;
		const length = Math.hypot(...n) || 1;
		return [n[0] / length, n[1] / length, n[2] / length];
	};
	const [sums, weights] = [new Float32Array(indices.length), new Float32Array(indices.length)];
	for (let face = 0; face < areas.length; face++) {
		const area = areas[face] as number;
		if (area <= 0) continue;
		const p = [0, 1, 2].map((k) => {
			const v = (indices[face * 3 + k] as number) * 3;
			return [positions[v], positions[v + 1], positions[v + 2]] as unknown as Vec;
		}) as unknown as readonly [Vec, Vec, Vec];
		const n = [normals[face * 3], normals[face * 3 + 1], normals[face * 3 + 2]] as unknown as Vec;
		// The divergence over the face: each corner's normal along the gradient of its share.
		let bend = 0;
		for (let k = 0; k < 3; k++) {
			const [a, b] = [p[(k + 1) % 3] as Vec, p[(k + 2) % 3] as Vec];
			const e: Vec = [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
			const gradient: Vec = [n[1] * e[2] - n[2] * e[1], n[2] * e[0] - n[0] * e[2], n[0] * e[1] - n[1] * e[0]];
			const own = normalOf(face * 3 + k);
			bend += (own[0] * gradient[0] + own[1] * gradient[1] + own[2] * gradient[2]) / (2 * area);
		}
		for (let k = 0; k < 3; k++) {
			const to = group[face * 3 + k] as number;
			sums[to] = (sums[to] as number) + bend * area;
			weights[to] = (weights[to] as number) + area;
		}
	}
	const corners = Float32Array.from(indices, (_, corner) => {
		const at = group[corner] as number;
		return weights[at] ? (sums[at] as number) / (weights[at] as number) : 0;
	});
	const hard = all.filter(({ sides, angle: turned }) => sides.length > 1 && turned >= angle);
	return { corners, edges: (width) => edgeGrid(mesh, hard, normals, width) };
}

/** Numbers of a hard edge: where it begins, how far it goes, radians (below 0 in a hollow), and its faces' normals. */
const EDGE = 13;
/** A place may lie so much of the width off the plane of an edge's face, and is still on the same surface. */
export const OFF_FACE = 0.3;
/** Boxes along the longest side of the grid at most. */
const MOST_BOXES = 64;

function edgeGrid(mesh: Mesh, hard: readonly SharpEdge[], normals: Float32Array, width: number): EdgeGrid {
	const { positions, indices } = mesh;
	const { center, radius } = meshBounds(mesh);
	const box = Math.max(width, (2 * radius) / (MOST_BOXES - 3)) || 1;
	const low = center.map((c) => c - radius - box) as unknown as Vec;
	const side = Math.min(MOST_BOXES, Math.ceil((2 * radius) / box) + 3);
	const edges = new Float32Array(hard.length * EDGE);
	const spans: (readonly [number[], number[]])[] = [];
	const cell = (v: number, axis: number): number =>
		Math.min(side - 1, Math.max(0, Math.floor((v - (low[axis] as number)) / box)));
	hard.forEach(({ sides, angle, out }, n) => {
		const [one, other] = sides as [SharpEdge['sides'][0], SharpEdge['sides'][0]];
		const [v, w] = [one.corner, (one.corner + 1) % 3].map((k) => (indices[one.face * 3 + k] as number) * 3) as [
			number,
			number,
		];
		const a = [0, 1, 2].map((k) => positions[v + k] as number);
		const b = [0, 1, 2].map((k) => positions[w + k] as number);
		const faces = [one.face, other.face].flatMap((face) => [...normals.subarray(face * 3, face * 3 + 3)]);
		const turned = ((out ? 1 : -1) * angle * Math.PI) / 180;
		edges.set([...a, ...a.map((each, k) => (b[k] as number) - each), turned, ...faces], n * EDGE);
		spans.push(
			[Math.min, Math.max].map((pick, i) =>
				[0, 1, 2].map((k) => cell(pick(a[k] as number, b[k] as number) + (i ? width : -width), k)),
			) as [number[], number[]],
		);
	});
	const boxed = boxedList(side ** 3, (visit) =>
		spans.forEach(([from, to], n) => {
			for (let z = from[2] as number; z <= (to[2] as number); z++)
				for (let y = from[1] as number; y <= (to[1] as number); y++)
					for (let x = from[0] as number; x <= (to[0] as number); x++) visit((z * side + y) * side + x, n);
		}),
	);
	return { edges, ...boxed, low, box, side };
}

const known = new WeakMap<LaidMesh, Map<number, Bend>>();

/** The same, remembered as long as the mesh. */
export function keptBend(mesh: LaidMesh, angle: number): Bend {
	let all = known.get(mesh);
	if (!all) known.set(mesh, (all = new Map()));
	let found = all.get(angle);
	if (!found) {
		if (all.size > 3) all.clear();
		all.set(angle, (found = bendOf(mesh, angle)));
	}
	return found;
}
