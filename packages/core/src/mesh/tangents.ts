import { createIndex, mixed } from './hashIndex.ts';
import type { LaidMesh } from './mesh.ts';

type Vec = readonly [number, number, number];
const dot = (a: Vec, b: Vec): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const minus = (a: Vec, b: Vec): Vec => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const times = (a: Vec, by: number): Vec => [a[0] * by, a[1] * by, a[2] * by];
const unit = (a: Vec): Vec => times(a, 1 / (Math.hypot(...a) || 1));
/** What of a way lies in the plane that a unit normal stands on, one long. */
const inPlane = (a: Vec, n: Vec): Vec => unit(minus(a, times(n, dot(n, a))));

/** Each face's unit normal, at each of its corners; the mesh's own where it has any. */
function cornerNormals({ positions, normals, indices }: LaidMesh): Float32Array {
	const out = new Float32Array(indices.length * 3);
	const at = (list: Float32Array, v: number): Vec => [list[v * 3], list[v * 3 + 1], list[v * 3 + 2]] as unknown as Vec;
	for (let face = 0; face < indices.length; face += 3) {
		const [a, b, c] = [0, 1, 2].map((k) => at(positions, indices[face + k] as number)) as unknown as [Vec, Vec, Vec];
		const [e, f] = [minus(b, a), minus(c, a)];
		const flat = unit([e[1] * f[2] - e[2] * f[1], e[2] * f[0] - e[0] * f[2], e[0] * f[1] - e[1] * f[0]]);
		for (let k = 0; k < 3; k++)
			out.set(normals ? unit(at(normals, indices[face + k] as number)) : flat, (face + k) * 3);
	}
	return out;
}

/**
 * The way that u goes at each corner, and 1 where v goes to its left seen from outside, -1 where the face is mirrored:
 * four numbers a corner. Corners of one place, normal and UV share the mean of their faces by angle, faces that are
 * mirrored apart. Source: M. Mikkelsen, "Simulation of Wrinkled Surfaces Revisited" (2008); v is taken upwards.
 */
export function tangentsOf(mesh: LaidMesh): Float32Array {
	const { positions, uvs, indices } = mesh;
	const corners = indices.length;
	const normals = cornerNormals(mesh);
	const place = (corner: number): Vec => {
		const v = (indices[corner] as number) * 3;
		return [positions[v], positions[v + 1], positions[v + 2]] as unknown as Vec;
	};
	const normal = (corner: number): Vec =>
		[normals[corner * 3], normals[corner * 3 + 1], normals[corner * 3 + 2]] as unknown as Vec;
	const uv = (corner: number, k: 0 | 1): number => uvs[(indices[corner] as number) * 2 + k] as number;
	const ways: Vec[] = [];
	const kept = new Uint8Array(corners / 3);
	for (let face = 0; face < corners / 3; face++) {
		const [a, b, c] = [face * 3, face * 3 + 1, face * 3 + 2] as const;
		const [ux, uy] = [uv(b, 0) - uv(a, 0), uv(a, 1) - uv(b, 1)];
		const [vx, vy] = [uv(c, 0) - uv(a, 0), uv(a, 1) - uv(c, 1)];
		const area = ux * vy - uy * vx;
		kept[face] = area > 0 ? 1 : 0;
		const way = minus(times(minus(place(b), place(a)), vy), times(minus(place(c), place(a)), uy));
		ways.push(times(unit(way), area > 0 ? 1 : area < 0 ? -1 : 0));
	}
	// Corners that share all are one, by the bits of what they have.
	const bits = (value: number): number => new Int32Array(Float32Array.of(value || 0).buffer)[0] as number;
	const words = (corner: number): number[] => [
		...place(corner),
		...normal(corner),
		uv(corner, 0),
		uv(corner, 1),
		kept[Math.floor(corner / 3)] as number,
	];
	const firsts = createIndex(corners, (corner) => words(corner).reduce((hash, value) => mixed(hash ^ bits(value)), 0));
	const same = (i: number, j: number): boolean => {
		const [one, other] = [words(i), words(j)];
		return one.every((value, k) => value === other[k]);
	};
	const first = Uint32Array.from({ length: corners }, (_, corner) => firsts(corner, same));
	const sums = new Float64Array(corners * 3);
	for (let corner = 0; corner < corners; corner++) {
		const face = Math.floor(corner / 3);
		const n = normal(corner);
		const [next, last] = [face * 3 + ((corner + 1) % 3), face * 3 + ((corner + 2) % 3)];
		const [e, f] = [inPlane(minus(place(next), place(corner)), n), inPlane(minus(place(last), place(corner)), n)];
		const angle = Math.acos(Math.min(1, Math.max(-1, dot(e, f))));
		const way = inPlane(ways[face] as Vec, n);
		const to = (first[corner] as number) * 3;
		for (let k = 0; k < 3; k++) sums[to + k] = (sums[to + k] as number) + (way[k] as number) * angle;
	}
	const out = new Float32Array(corners * 4);
	for (let corner = 0; corner < corners; corner++) {
		const at = (first[corner] as number) * 3;
		const way = unit([sums[at], sums[at + 1], sums[at + 2]] as unknown as Vec);
		out.set([...way, kept[Math.floor(corner / 3)] ? 1 : -1], corner * 4);
	}
	return out;
}
