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

/** Builds the tree; of all faces where none are named. */
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
	const low = new Float32Array(indices.length);
	const high = new Float32Array(indices.length);
	for (const face of order)
		for (let axis = 0; axis < 3; axis++) {
			const at = (k: number): number => positions[(indices[face * 3 + k] as number) * 3 + axis] as number;
			low[face * 3 + axis] = Math.min(at(0), at(1), at(2));
			high[face * 3 + axis] = Math.max(at(0), at(1), at(2));
		}
	let nodes = 0;
	/** The box around faces of the order, into a node's place. */
	const box = (node: number, from: number, to: number): void => {
		const at = node * 6;
		bounds.fill(Infinity, at, at + 3);
		bounds.fill(-Infinity, at + 3, at + 6);
		for (let i = from; i < to; i++)
			for (let axis = 0, f = (order[i] as number) * 3; axis < 3; axis++) {
				bounds[at + axis] = Math.min(bounds[at + axis] as number, low[f + axis] as number);
				bounds[at + 3 + axis] = Math.max(bounds[at + 3 + axis] as number, high[f + axis] as number);
			}
	};
	const split = (from: number, to: number): void => {
		const node = nodes++;
		box(node, from, to);
		if (to - from <= LEAF) {
			first[node] = from;
			count[node] = to - from;
			return;
		}
		const half = cutAt(order, middle, low, high, from, to);
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

/** Slices in which places to cut at are looked for. */
const BINS = 12;

/**
 * Sorts faces of the order into two halves and says where the second begins: cut where the boxes' areas times the faces in
 * them are least, so that rays meet few of them. Source: I. Wald, "On fast construction of SAH-based bounding volume
 * hierarchies" (2007). In halves where all middles are in one place.
 */
function cutAt(
	order: Uint32Array,
	middle: Float32Array,
	low: Float32Array,
	high: Float32Array,
	from: number,
	to: number,
): number {
	let [best, axisOf, binOf] = [Infinity, -1, 0];
	const span = [0, 1, 2].map((axis) => {
		let [least, most] = [Infinity, -Infinity];
		for (let i = from; i < to; i++) {
			const m = middle[(order[i] as number) * 3 + axis] as number;
			[least, most] = [Math.min(least, m), Math.max(most, m)];
		}
		return [least, most] as const;
	}) as [readonly [number, number], readonly [number, number], readonly [number, number]];
	const bin = (face: number, axis: 0 | 1 | 2): number => {
		const [least, most] = span[axis];
		return Math.min(BINS - 1, Math.floor((BINS * ((middle[face * 3 + axis] as number) - least)) / (most - least)));
	};
	const counts = new Uint32Array(BINS);
	/** Six numbers a bin, and those of what lies on one side of a cut. */
	const boxes = new Float64Array(BINS * 6);
	const all = new Float64Array(6);
	const right = new Float64Array(BINS);
	for (const axis of [0, 1, 2] as const) {
		if (!(span[axis][1] > span[axis][0])) continue;
		counts.fill(0);
		for (let n = 0; n < BINS; n++) empty(boxes, n * 6);
		for (let i = from; i < to; i++) {
			const face = order[i] as number;
			const n = bin(face, axis);
			counts[n] = (counts[n] as number) + 1;
			for (let k = 0, at = n * 6; k < 3; k++) {
				boxes[at + k] = Math.min(boxes[at + k] as number, low[face * 3 + k] as number);
				boxes[at + 3 + k] = Math.max(boxes[at + 3 + k] as number, high[face * 3 + k] as number);
			}
		}
		// What lies right of each cut, then from the left on.
		empty(all, 0);
		for (let n = BINS - 1, sum = 0; n > 0; n--) {
			sum += counts[n] as number;
			right[n] = sum * grownBy(all, boxes, n * 6);
		}
		empty(all, 0);
		for (let n = 1, sum = 0; n < BINS; n++) {
			sum += counts[n - 1] as number;
			const cost = sum * grownBy(all, boxes, (n - 1) * 6) + (right[n] as number);
			if (sum > 0 && sum < to - from && cost < best) [best, axisOf, binOf] = [cost, axis, n];
		}
	}
	if (axisOf < 0) return (from + to) >> 1;
	const axis = axisOf as 0 | 1 | 2;
	const list = order.slice(from, to);
	const [left, rest] = [
		list.filter((face) => bin(face, axis) < binOf),
		list.filter((face) => bin(face, axis) >= binOf),
	];
	order.set(left, from);
	order.set(rest, from + left.length);
	return from + left.length;
}

/** Makes a box one that holds nothing. */
function empty(boxes: Float64Array, at: number): void {
	boxes.fill(Infinity, at, at + 3);
	boxes.fill(-Infinity, at + 3, at + 6);
}

/** Half the area of a box once it holds another too; 0 while it holds nothing. */
function grownBy(box: Float64Array, boxes: Float64Array, at: number): number {
	for (let k = 0; k < 3; k++) {
		box[k] = Math.min(box[k] as number, boxes[at + k] as number);
		box[3 + k] = Math.max(box[3 + k] as number, boxes[at + 3 + k] as number);
	}
	const [x, y, z] = [3, 4, 5].map((k) => Math.max(0, (box[k] as number) - (box[k - 3] as number))) as [
		number,
		number,
		number,
	];
	return x * y + y * z + z * x;
}
