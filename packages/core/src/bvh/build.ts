import type { Mesh } from '../mesh/index.ts';

/** Faces that a leaf holds at the most. */
const LEAF = 4;

/**
 * A tree of boxes over faces of a mesh. Node i has its box in `bounds` (least x, y, z, most x, y, z); where `count` is 0
 * its first child is i + 1 and its second `first`, else it is a leaf of `count` faces, `order[first..]`.
 */
export interface Bvh {
	readonly mesh: Mesh;
	readonly bounds: Float32Array;
	readonly first: Uint32Array;
	readonly count: Uint16Array;
	readonly order: Uint32Array;
}

/** Builds the tree by halving the widest side of the faces' middles, so that it is balanced; all faces where none are named. */
export function buildBvh(mesh: Mesh, faces?: Iterable<number>): Bvh {
	const { positions, indices } = mesh;
	const order = faces ? Uint32Array.from(faces) : Uint32Array.from({ length: indices.length / 3 }, (_, face) => face);
	const most = Math.max(1, 2 * order.length);
	const bounds = new Float32Array(most * 6);
	const first = new Uint32Array(most);
	const count = new Uint16Array(most);
	const middle = new Float32Array(indices.length);
	for (const face of order)
		for (let axis = 0; axis < 3; axis++) {
			let sum = 0;
			for (let k = 0; k < 3; k++) sum += positions[(indices[face * 3 + k] as number) * 3 + axis] as number;
			middle[face * 3 + axis] = sum / 3;
		}
	let nodes = 0;
	const box = (node: number, from: number, to: number): number => {
		const at = node * 6;
		bounds.fill(Infinity, at, at + 3);
		bounds.fill(-Infinity, at + 3, at + 6);
		const [low, high] = [
			[Infinity, Infinity, Infinity],
			[-Infinity, -Infinity, -Infinity],
		] as [number[], number[]];
		for (let i = from; i < to; i++) {
			const face = order[i] as number;
			for (let axis = 0; axis < 3; axis++) {
				for (let k = 0; k < 3; k++) {
					const v = positions[(indices[face * 3 + k] as number) * 3 + axis] as number;
					bounds[at + axis] = Math.min(bounds[at + axis] as number, v);
					bounds[at + 3 + axis] = Math.max(bounds[at + 3 + axis] as number, v);
				}
				const m = middle[face * 3 + axis] as number;
				low[axis] = Math.min(low[axis] as number, m);
				high[axis] = Math.max(high[axis] as number, m);
			}
		}
		const wide = [0, 1, 2].map((axis) => (high[axis] as number) - (low[axis] as number));
		return wide.indexOf(Math.max(...wide));
	};
	const split = (from: number, to: number): void => {
		const node = nodes++;
		const axis = box(node, from, to);
		if (to - from <= LEAF) {
			first[node] = from;
			count[node] = to - from;
			return;
		}
		order.subarray(from, to).sort((a, b) => (middle[a * 3 + axis] as number) - (middle[b * 3 + axis] as number));
		const half = (from + to) >> 1;
		split(from, half);
		first[node] = nodes;
		split(half, to);
	};
	if (order.length) split(0, order.length);
	return {
		mesh,
		bounds: bounds.slice(0, nodes * 6),
		first: first.slice(0, nodes),
		count: count.slice(0, nodes),
		order,
	};
}
