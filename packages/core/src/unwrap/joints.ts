import { type Mesh, nextCorner, type Topology } from '../mesh/index.ts';

/** How the faces of a mesh hang together. Corners are numbered three a face; an edge is told by the corner that it begins at. */
export interface Joints {
	readonly mesh: Mesh;
	/** For each vertex the first one at its place. */
	readonly place: Uint32Array;
	/** For each corner the one at which the same edge begins in the face across; -1 at a rim, or where more than two faces meet. */
	readonly across: Int32Array;
	/** Unit normal of each face, 3 numbers; 0 where it has no area. */
	readonly normals: Float64Array;
	/** Area of each face, squared units. */
	readonly areas: Float64Array;
}

/** The place of a corner: its vertex, or the first that stands where it does. */
export const placeOf = ({ mesh, place }: Joints, corner: number): number =>
	place[mesh.indices[corner] as number] as number;

export function jointsOf(mesh: Mesh, place: Topology['place']): Joints {
	const { indices, positions } = mesh;
	const corners = indices.length;
	const at = (corner: number): number => place[indices[corner] as number] as number;
	/** Corners by the edge that begins there: one way, and how many go either way. */
	const ways = new Map<number, number>();
	const counts = new Map<number, number>();
	const many = positions.length / 3;
	const key = (from: number, to: number): number => from * many + to;
	/** Of a face whose corners are not three places nothing hangs: the faces on both sides of it meet. */
	const isPinched = (face: number): boolean => {
		const [a, b, c] = [0, 1, 2].map((k) => at(face * 3 + k));
		return a === b || b === c || c === a;
	};
	for (let corner = 0; corner < corners; corner++) {
		const [from, to] = [at(corner), at(nextCorner(corner))];
		if (isPinched(Math.floor(corner / 3))) continue;
		ways.set(key(from, to), corner);
		const edge = key(Math.min(from, to), Math.max(from, to));
		counts.set(edge, (counts.get(edge) ?? 0) + 1);
	}
	const across = new Int32Array(corners).fill(-1);
	for (let corner = 0; corner < corners; corner++) {
		const [from, to] = [at(corner), at(nextCorner(corner))];
		if (isPinched(Math.floor(corner / 3))) continue;
		const other = ways.get(key(to, from));
		if (other !== undefined && counts.get(key(Math.min(from, to), Math.max(from, to))) === 2) across[corner] = other;
	}
	const faces = corners / 3;
	const [normals, areas] = [new Float64Array(faces * 3), new Float64Array(faces)];
	for (let face = 0; face < faces; face++) {
		const [a, b, c] = [0, 1, 2].map((k) => (indices[face * 3 + k] as number) * 3) as [number, number, number];
		const p = (v: number, k: number): number => positions[v + k] as number;
		const [e, f] = [
			[p(b, 0) - p(a, 0), p(b, 1) - p(a, 1), p(b, 2) - p(a, 2)],
			[p(c, 0) - p(a, 0), p(c, 1) - p(a, 1), p(c, 2) - p(a, 2)],
		] as [[number, number, number], [number, number, number]];
		const n = [e[1] * f[2] - e[2] * f[1], e[2] * f[0] - e[0] * f[2], e[0] * f[1] - e[1] * f[0]];
		const long = Math.hypot(...n);
		areas[face] = long / 2;
		if (long > 0) for (let k = 0; k < 3; k++) normals[face * 3 + k] = (n[k] as number) / long;
	}
	return { mesh, place, across, normals, areas };
}

/** Angle between the faces on both sides of an edge, degrees: 0 where they lie in one plane. */
export function bendAt({ across, normals }: Joints, corner: number): number {
	const other = across[corner] as number;
	if (other < 0) return 180;
	const [f, g] = [Math.floor(corner / 3) * 3, Math.floor(other / 3) * 3];
	const dot =
		(normals[f] as number) * (normals[g] as number) +
		(normals[f + 1] as number) * (normals[g + 1] as number) +
		(normals[f + 2] as number) * (normals[g + 2] as number);
	return (Math.acos(Math.max(-1, Math.min(1, dot))) * 180) / Math.PI;
}

/** How long an edge is, units. */
export function edgeLength({ mesh: { indices, positions } }: Joints, corner: number): number {
	const [a, b] = [(indices[corner] as number) * 3, (indices[nextCorner(corner)] as number) * 3];
	return Math.hypot(
		(positions[a] as number) - (positions[b] as number),
		(positions[a + 1] as number) - (positions[b + 1] as number),
		(positions[a + 2] as number) - (positions[b + 2] as number),
	);
}

/** Marks an edge, from both sides. */
export function markEdge({ across }: Joints, marks: Uint8Array, corner: number, value = 1): void {
	marks[corner] = value;
	const other = across[corner] as number;
	if (other >= 0) marks[other] = value;
}

/** The groups of faces that hang together where no edge is marked; only of `faces`, in the order of their first. */
export function piecesOf({ across }: Joints, marks: Uint8Array, faces: Iterable<number>): number[][] {
	const free = new Set(faces);
	const out: number[][] = [];
	for (const first of free) {
		free.delete(first);
		const piece = [first];
		for (let i = 0; i < piece.length; i++)
			for (let k = 0; k < 3; k++) {
				const corner = (piece[i] as number) * 3 + k;
				const other = across[corner] as number;
				const face = Math.floor(other / 3);
				if (other < 0 || marks[corner] || !free.has(face)) continue;
				free.delete(face);
				piece.push(face);
			}
		out.push(piece.sort((a, b) => a - b));
	}
	return out;
}
