import { eachTexelOfFace } from '../atlas/index.ts';
import { type FlatPlace, type LaidMesh, sharesOf } from '../mesh/index.ts';
import { type Across, layAt } from './across.ts';
import type { Lying } from './owners.ts';
import type { Size } from './way.ts';

/** Texels that lie over several faces of before, each with the place that it had. */
export interface LooseTexels {
	/** Row by row. */
	readonly texel: Uint32Array;
	/** Where it lay, texels. */
	readonly x: Float32Array;
	readonly y: Float32Array;
	/** Island of before + 1. */
	readonly island: Uint32Array;
	/** Texels of before along one of now. */
	readonly step: Float32Array;
}

/** Texels of a sheet along a unit of a face; 0 where it lies nowhere. */
function finenessOf({ positions, uvs, indices }: LaidMesh, face: number, { width, height }: Size): number {
	const at = (k: number): number => indices[face * 3 + k] as number;
	const edge = (list: Float32Array, size: number, k: number, scale: readonly number[]): number[] =>
		scale.map((by, axis) => by * ((list[at(k) * size + axis] as number) - (list[at(0) * size + axis] as number)));
	const [p, q] = [edge(positions, 3, 1, [1, 1, 1]), edge(positions, 3, 2, [1, 1, 1])] as [number[], number[]];
	const [s, t] = [edge(uvs, 2, 1, [width, height]), edge(uvs, 2, 2, [width, height])] as [number[], number[]];
	const [px, py, pz] = p as [number, number, number];
	const [qx, qy, qz] = q as [number, number, number];
	const area = Math.hypot(py * qz - pz * qy, pz * qx - px * qz, px * qy - py * qx);
	const texels = Math.abs((s[0] as number) * (t[1] as number) - (s[1] as number) * (t[0] as number));
	return area > 0 ? Math.sqrt(texels / area) : 0;
}

/** Finds where the texels of loose faces lay, gutters too: these continue the texel that they continue now. */
export function looseTexels(
	before: Lying,
	now: Lying,
	lay: (face: number) => boolean,
	lies: (face: number) => boolean,
	{ loose, near, unit }: Across,
): LooseTexels {
	const { map, mesh } = now;
	const texel: number[] = [];
	const x: number[] = [];
	const y: number[] = [];
	const island: number[] = [];
	const step: number[] = [];
	const place = new Map<number, number>();
	for (let face = 0; face < loose.length; face++) {
		if (!loose[face] || !lies(face)) continue;
		const [a, b, c] = [0, 1, 2].map((k): FlatPlace => {
			const at = (mesh.indices[face * 3 + k] as number) * 2;
			return [(mesh.uvs[at] as number) * map.width, (mesh.uvs[at + 1] as number) * map.height];
		}) as [FlatPlace, FlatPlace, FlatPlace];
		const fine = finenessOf(mesh, face, map);
		const add = (i: number, px: number, py: number): void => {
			const shares = sharesOf(a, b, c, px, py);
			const found = shares && near(face, shares);
			if (!found || !lay(found.face)) return;
			const [s, t] = layAt(before.mesh, found.face, [1 - found.v - found.w, found.v, found.w]);
			place.set(i, texel.length);
			texel.push(i);
			x.push(s * before.map.width);
			y.push(t * before.map.height);
			island.push((before.islandOfFace[found.face] as number) + 1);
			step.push(fine > 0 ? (finenessOf(before.mesh, found.face, before.map) * unit) / fine : 1);
		};
		eachTexelOfFace(
			map,
			face,
			(row, x0, x1) => {
				for (let at = x0; at < x1; at++)
					if (map.faceOfTexel[row * map.width + at] === face + 1) add(row * map.width + at, at + 0.5, row + 0.5);
			},
			() => undefined,
		);
		for (let g = map.gutterOffset[face] as number; g < (map.gutterOffset[face + 1] as number); g++) {
			const from = place.get(map.gutterSource[g] as number);
			if (from === undefined) continue;
			texel.push(map.gutterTexel[g] as number);
			for (const list of [x, y, island, step]) list.push(list[from] as number);
		}
	}
	return {
		texel: Uint32Array.from(texel),
		x: Float32Array.from(x),
		y: Float32Array.from(y),
		island: Uint32Array.from(island),
		step: Float32Array.from(step),
	};
}
