import { type LaidMesh, meshBounds } from './mesh.ts';

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
}

/** For each vertex the first vertex with the same values, to within half a `grain`. */
function weld(values: Float32Array, size: number, grain: number, also?: Uint32Array): Uint32Array {
	const known = new Map<string, number>();
	const out = new Uint32Array(values.length / size);
	for (let i = 0; i < out.length; i++) {
		let key = also ? `${also[i]}` : '';
		for (let k = 0; k < size; k++) key += `,${Math.round((values[i * size + k] as number) / grain) + 0}`;
		const first = known.get(key);
		if (first === undefined) known.set(key, i);
		out[i] = first ?? i;
	}
	return out;
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
	const open = new Map<string, EdgeSide[]>();
	const end = (face: number, corner: number): number => indices[face * 3 + (corner % 3)] as number;
	for (let face = 0; face < faces; face++)
		for (let corner = 0; corner < 3; corner++) {
			const a = place[end(face, corner)] as number;
			const b = place[end(face, corner + 1)] as number;
			const key = a < b ? `${a}-${b}` : `${b}-${a}`;
			const sides = open.get(key);
			if (sides) sides.push({ face, corner });
			else open.set(key, [{ face, corner }]);
		}
	const seams: Seam[] = [];
	const spots = ({ face, corner }: EdgeSide): [number, number] => {
		const a = spot[end(face, corner)] as number;
		const b = spot[end(face, corner + 1)] as number;
		return a < b ? [a, b] : [b, a];
	};
	for (const sides of open.values()) {
		// Sides that agree in UV are one edge of the sheet, however many there are: a double-sided mesh has four here.
		const groups = new Map<string, EdgeSide[]>();
		for (const side of sides) {
			const key = spots(side).join();
			const group = groups.get(key);
			if (!group) groups.set(key, [side]);
			else {
				parent[root(side.face)] = root((group[0] as EdgeSide).face);
				group.push(side);
			}
		}
		// What is left with one side is where the sheet is cut: two that run against each other lie over the same seam.
		const single = [...groups.values()].flatMap((group) => (group.length === 1 ? group : []));
		while (single.length) {
			const one = single.shift() as EdgeSide;
			const from = place[end(one.face, one.corner)];
			const against = single.findIndex((side) => place[end(side.face, side.corner)] !== from);
			const at = against >= 0 ? against : single.length - 1;
			seams.push({ one, other: at >= 0 ? (single.splice(at, 1)[0] as EdgeSide) : null });
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
	return { islandOfFace, islands: number.size, seams };
}
