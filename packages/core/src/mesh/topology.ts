import { createIndex, mixed } from './hashIndex.ts';
import { type LaidMesh, meshBounds } from './mesh.ts';

/** The corner after a corner of the same face; corners are numbered three a face. */
export const nextCorner = (corner: number): number => (corner % 3 === 2 ? corner - 2 : corner + 1);

/** One side of an edge: the face, and the corner (0..2) at which the edge begins. */
export interface EdgeSide {
	readonly face: number;
	readonly corner: number;
}

/** An edge of the surface at which the sheet is cut: its two sides lie apart on the sheet, or it has only one. */
export interface Seam {
	readonly one: EdgeSide;
	readonly other: EdgeSide | null;
}

export interface Topology {
	/** The island of each face, from 0. */
	readonly islandOfFace: Uint32Array;
	readonly islands: number;
	readonly seams: readonly Seam[];
	/** Edges of the sheet that two faces or more share, and those at its cuts, each by a corner that it begins at: three a face. */
	readonly inner: Uint32Array;
	readonly borders: Uint32Array;
	/** Edges of the model at which three faces or more meet, and those whose two faces run against each other: all their corners. */
	readonly forked: Uint32Array;
	readonly turned: Uint32Array;
	/** For each vertex the first one at its place. */
	readonly place: Uint32Array;
}

/** For each vertex the first vertex with the same values, to within half a `grain`. */
function weld(values: Float32Array, size: number, grain: number, also?: Uint32Array): Uint32Array {
	const out = new Uint32Array(values.length / size);
	const cells = Float64Array.from(values, (v) => Math.round(v / grain));
	const same = (i: number, j: number): boolean => {
		if (also && also[i] !== also[j]) return false;
		for (let k = 0; k < size; k++) if (cells[i * size + k] !== cells[j * size + k]) return false;
		return true;
	};
	const firsts = createIndex(out.length, (i) => {
		let hash = also ? (also[i] as number) : 0;
		for (let k = 0; k < size; k++) hash = mixed(hash ^ (cells[i * size + k] as number));
		return hash;
	});
	for (let i = 0; i < out.length; i++) out[i] = firsts(i, same);
	return out;
}

/** Corners by the edge of the surface that begins there, edges in the order in which they are first met. */
function sidesByEdge(
	corners: number,
	from: (corner: number) => number,
	to: (corner: number) => number,
): { readonly offsets: Uint32Array; readonly sides: Uint32Array } {
	const low = (corner: number): number => Math.min(from(corner), to(corner));
	const high = (corner: number): number => Math.max(from(corner), to(corner));
	const firsts = createIndex(corners, (corner) => mixed(mixed(low(corner)) ^ high(corner)));
	const edgeOf = new Uint32Array(corners);
	const counts = new Uint32Array(corners + 1);
	let edges = 0;
	for (let corner = 0; corner < corners; corner++) {
		const first = firsts(corner, (i, j) => low(i) === low(j) && high(i) === high(j));
		const edge = first === corner ? edges++ : (edgeOf[first] as number);
		edgeOf[corner] = edge;
		counts[edge + 1] = (counts[edge + 1] as number) + 1;
	}
	const offsets = counts.slice(0, edges + 1);
	for (let edge = 0; edge < edges; edge++)
		offsets[edge + 1] = (offsets[edge + 1] as number) + (offsets[edge] as number);
	const at = offsets.slice();
	const sides = new Uint32Array(corners);
	for (let corner = 0; corner < corners; corner++) {
		const edge = edgeOf[corner] as number;
		sides[at[edge] as number] = corner;
		at[edge] = (at[edge] as number) + 1;
	}
	return { offsets, sides };
}

/**
 * Islands and seams of a mesh. Faces belong to one island where they share an edge whose ends agree in position and
 * UV; an edge whose sides agree in position only, or which has one side, is a seam.
 */
export function topologyOf(mesh: LaidMesh): Topology {
	const { indices } = mesh;
	const faces = indices.length / 3;
	const place = weld(mesh.positions, 3, meshBounds(mesh).radius * 1e-5);
	const spot = weld(mesh.uvs, 2, 1e-6, place);
	const parent = Uint32Array.from({ length: faces }, (_, i) => i);
	const root = (f: number): number => {
		let at = f;
		while (parent[at] !== at) {
			parent[at] = parent[parent[at] as number] as number;
			at = parent[at] as number;
		}
		return at;
	};
	const from = (corner: number): number => place[indices[corner] as number] as number;
	const { offsets, sides } = sidesByEdge(indices.length, from, (corner) => from(nextCorner(corner)));
	const spotOf = (corner: number): number => spot[indices[corner] as number] as number;
	/** Whether two sides of an edge are one edge of the sheet. */
	const joined = (one: number, other: number): boolean => {
		const [a, b, c, d] = [spotOf(one), spotOf(nextCorner(one)), spotOf(other), spotOf(nextCorner(other))];
		return (a === c && b === d) || (a === d && b === c);
	};
	const sideOf = (corner: number): EdgeSide => ({ face: Math.floor(corner / 3), corner: corner % 3 });
	const seams: Seam[] = [];
	const inner: number[] = [];
	const borders: number[] = [];
	const [forked, turned]: [number[], number[]] = [[], []];
	for (let edge = 0; edge + 1 < offsets.length; edge++) {
		let left = [...sides.subarray(offsets[edge], offsets[edge + 1])];
		if (left.length > 2) forked.push(...left);
		else if (left.length === 2 && from(left[0] as number) === from(left[1] as number)) turned.push(...left);
		// What is left with one side is where the sheet is cut: two that run against each other lie over the same seam.
		const single: number[] = [];
		while (left.length) {
			const [first, ...others] = left as [number, ...number[]];
			left = others.filter((each) => !joined(first, each));
			if (left.length === others.length) {
				single.push(first);
				continue;
			}
			// Sides that agree in UV are one edge of the sheet, however many there are: a double-sided mesh has four here.
			inner.push(first);
			for (const each of others)
				if (joined(first, each)) parent[root(Math.floor(each / 3))] = root(Math.floor(first / 3));
		}
		borders.push(...single);
		while (single.length) {
			const one = single.shift() as number;
			const against = single.findIndex((each) => from(each) !== from(one));
			const at = against >= 0 ? against : single.length - 1;
			seams.push({ one: sideOf(one), other: at >= 0 ? sideOf(single.splice(at, 1)[0] as number) : null });
		}
	}
	const number = new Map<number, number>();
	const islandOfFace = new Uint32Array(faces);
	for (let face = 0; face < faces; face++) {
		const r = root(face);
		let n = number.get(r);
		if (n === undefined) number.set(r, (n = number.size));
		islandOfFace[face] = n;
	}
	return {
		islandOfFace,
		islands: number.size,
		seams,
		inner: Uint32Array.from(inner),
		borders: Uint32Array.from(borders),
		forked: Uint32Array.from(forked),
		turned: Uint32Array.from(turned),
		place,
	};
}
