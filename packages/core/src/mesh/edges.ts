import { type Mesh, meshBounds } from './mesh.ts';
import type { EdgeSide } from './topology.ts';

/** An edge of the surface between two faces, and how sharply they meet. */
export interface SharpEdge {
	readonly sides: readonly EdgeSide[];
	/** Degrees between the faces' directions: 0 is flat. An open border counts as 180. */
	readonly angle: number;
	/** It stands out; else it is a hollow. */
	readonly out: boolean;
}

/** All edges of a mesh at which faces meet at `least` degrees or more. */
export function sharpEdges(mesh: Mesh, least = 1): SharpEdge[] {
	const { positions, indices } = mesh;
	const grain = meshBounds(mesh).radius * 1e-5 || 1e-9;
	const place = new Map<string, number>();
	const spot = Uint32Array.from({ length: positions.length / 3 }, (_, v) => {
		const key = [0, 1, 2].map((k) => Math.round((positions[v * 3 + k] as number) / grain)).join();
		const first = place.get(key);
		if (first === undefined) place.set(key, v);
		return first ?? v;
	});
	const point = (face: number, corner: number): number[] => {
		const v = (indices[face * 3 + (corner % 3)] as number) * 3;
		return [positions[v] as number, positions[v + 1] as number, positions[v + 2] as number];
	};
	const minus = (a: number[], b: number[]): number[] => a.map((v, k) => v - (b[k] as number));
	const dot = (a: number[], b: number[]): number => a.reduce((sum, v, k) => sum + v * (b[k] as number), 0);
	const normals = Array.from({ length: indices.length / 3 }, (_, face) => {
		const [u, v] = [minus(point(face, 1), point(face, 0)), minus(point(face, 2), point(face, 0))] as [
			number[],
			number[],
		];
		const [ux, uy, uz] = u as [number, number, number];
		const [vx, vy, vz] = v as [number, number, number];
		const n = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
		const long = Math.sqrt(dot(n, n)) || 1;
		return n.map((each) => each / long);
	});
	const sides = new Map<number, EdgeSide[]>();
	for (let face = 0; face < normals.length; face++)
		for (let corner = 0; corner < 3; corner++) {
			const a = spot[indices[face * 3 + corner] as number] as number;
			const b = spot[indices[face * 3 + ((corner + 1) % 3)] as number] as number;
			const key = Math.min(a, b) * 4294967 + Math.max(a, b);
			const list = sides.get(key);
			if (list) list.push({ face, corner });
			else sides.set(key, [{ face, corner }]);
		}
	const out: SharpEdge[] = [];
	for (const list of sides.values()) {
		const [one, other] = list as [EdgeSide, EdgeSide | undefined];
		if (!other) {
			out.push({ sides: list, angle: 180, out: true });
			continue;
		}
		const [n, m] = [normals[one.face] as number[], normals[other.face] as number[]];
		const angle = (Math.acos(Math.min(1, Math.max(-1, dot(n, m)))) * 180) / Math.PI;
		if (angle < least) continue;
		// The far corner of the other face lies below this face's plane where the edge stands out.
		const far = minus(point(other.face, other.corner + 2), point(one.face, one.corner));
		out.push({ sides: list, angle, out: dot(far, n) < 0 });
	}
	return out;
}
