import { nextCorner } from '../mesh/index.ts';
import { type Joints, placeOf } from './joints.ts';

/** A piece of surface that is flattened as one, with vertices of its own: split along the edges that are cut. */
export interface Chart {
	readonly faces: readonly number[];
	/** Vertex of each of its corners, three a face. */
	readonly corners: Uint32Array;
	/** 3 a vertex, units. */
	readonly points: Float64Array;
	/** Edges with one side, by the corner (of the chart) that they begin at. */
	readonly rim: readonly number[];
	/** Rims that close in themselves. */
	readonly rims: number;
	/** Vertices − edges + faces: 1 for a disk. */
	readonly euler: number;
}

export function chartOf(joints: Joints, marks: Uint8Array, faces: readonly number[]): Chart {
	const at = new Map(faces.map((face, i) => [face, i]));
	const count = faces.length * 3;
	const parent = Uint32Array.from({ length: count }, (_, i) => i);
	const root = (i: number): number => {
		let r = i;
		while (parent[r] !== r) {
			parent[r] = parent[parent[r] as number] as number;
			r = parent[r] as number;
		}
		return r;
	};
	/** The corner of the chart across an edge of it, or -1. */
	const across = (corner: number): number => {
		const whole = (faces[Math.floor(corner / 3)] as number) * 3 + (corner % 3);
		const other = joints.across[whole] as number;
		if (other < 0 || marks[whole]) return -1;
		const face = at.get(Math.floor(other / 3));
		return face === undefined ? -1 : face * 3 + (other % 3);
	};
	const rim: number[] = [];
	let edges = 0;
	for (let corner = 0; corner < count; corner++) {
		const other = across(corner);
		if (other < 0) {
			rim.push(corner);
			edges++;
			continue;
		}
		if (other > corner) edges++;
		parent[root(corner)] = root(nextCorner(other));
		parent[root(nextCorner(corner))] = root(other);
	}
	const numbers = new Map<number, number>();
	const corners = new Uint32Array(count);
	const points: number[] = [];
	const { positions, indices } = joints.mesh;
	for (let corner = 0; corner < count; corner++) {
		const r = root(corner);
		let number = numbers.get(r);
		if (number === undefined) {
			numbers.set(r, (number = numbers.size));
			const v = indices[(faces[Math.floor(r / 3)] as number) * 3 + (r % 3)] as number;
			points.push(positions[v * 3] as number, positions[v * 3 + 1] as number, positions[v * 3 + 2] as number);
		}
		corners[corner] = number;
	}
	return {
		faces,
		corners,
		points: Float64Array.from(points),
		rim,
		rims: loops(rim, corners),
		euler: numbers.size - edges + faces.length,
	};
}

/** How many loops the edges of a rim make. */
function loops(rim: readonly number[], corners: Uint32Array): number {
	const next = new Map<number, number[]>();
	for (const corner of rim) {
		const from = corners[corner] as number;
		next.set(from, [...(next.get(from) ?? []), corner]);
	}
	let count = 0;
	const seen = new Set<number>();
	for (const first of rim) {
		if (seen.has(first)) continue;
		count++;
		let at: number | undefined = first;
		while (at !== undefined && !seen.has(at)) {
			seen.add(at);
			at = next.get(corners[nextCorner(at)] as number)?.find((each) => !seen.has(each));
		}
	}
	return count;
}

/** Whether a chart is a disk: one rim, and no handles. */
export const isDisk = ({ rims, euler }: Chart): boolean => rims === 1 && euler === 1;

/** The places of the mesh at the ends of an edge of a chart. */
export const endsOf = (joints: Joints, corner: number): readonly [number, number] => [
	placeOf(joints, corner),
	placeOf(joints, nextCorner(corner)),
];
