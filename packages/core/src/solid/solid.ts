import type { Mesh } from '../mesh/index.ts';

export type Point = readonly [x: number, y: number, z: number];

/** A body as points, and polygons that name them, counter-clockwise seen from outside. */
export interface Body {
	readonly points: readonly Point[];
	readonly polygons: readonly (readonly number[])[];
}

/** Faces that meet under less than this are shaded as one: cosine of 40 degrees. */
const SMOOTH = Math.cos((40 * Math.PI) / 180);

/** A body as a mesh of one part: polygons cut in fans, normals smooth but over sharp edges. Flat polygons only. */
export function meshOfBody({ points, polygons }: Body, name: string): Mesh {
	const triangles = polygons.flatMap((list) => {
		const clean = list.filter((v, i) => v !== list[(i + 1) % list.length]);
		return Array.from({ length: Math.max(0, clean.length - 2) }, (_, i) => [clean[0], clean[i + 1], clean[i + 2]]);
	}) as [number, number, number][];
	const normals = triangles.map(([a, b, c]) => {
		const [p, q, r] = [points[a], points[b], points[c]] as [Point, Point, Point];
		const [e, f] = [q.map((v, k) => v - (p[k] as number)), r.map((v, k) => v - (p[k] as number))] as [
			number[],
			number[],
		];
		const n = [0, 1, 2].map(
			(k) =>
				(e[(k + 1) % 3] as number) * (f[(k + 2) % 3] as number) -
				(e[(k + 2) % 3] as number) * (f[(k + 1) % 3] as number),
		);
		const long = Math.hypot(...n) || 1;
		return n.map((v) => v / long);
	});
	const around: number[][] = points.map(() => []);
	triangles.forEach((corners, face) => {
		for (const v of corners) (around[v] as number[]).push(face);
	});
	const [positions, shaded, indices]: [number[], number[], number[]] = [[], [], []];
	const known = new Map<string, number>();
	triangles.forEach((corners, face) => {
		const own = normals[face] as number[];
		for (const v of corners) {
			const sum = [0, 0, 0];
			for (const other of around[v] as number[]) {
				const n = normals[other] as number[];
				if (n.reduce((dot, x, k) => dot + x * (own[k] as number), 0) < SMOOTH) continue;
				for (let k = 0; k < 3; k++) sum[k] = (sum[k] as number) + (n[k] as number);
			}
			const long = Math.hypot(...sum) || 1;
			const normal = sum.map((x) => Math.round((x / long) * 1e5) / 1e5);
			const key = `${v} ${normal}`;
			let vertex = known.get(key);
			if (vertex === undefined) {
				known.set(key, (vertex = known.size));
				positions.push(...(points[v] as Point));
				shaded.push(...normal);
			}
			indices.push(vertex);
		}
	});
	return {
		positions: Float32Array.from(positions),
		normals: Float32Array.from(shaded),
		indices: Uint32Array.from(indices),
		parts: [{ name, firstFace: 0, faces: indices.length / 3 }],
	};
}

/** Rings of `around` points each, one over the other, joined by quads; ends that are open are closed by a polygon. */
export function rings(
	list: readonly (readonly Point[])[],
	ends: { readonly first: 'open' | 'closed'; readonly last: 'open' | 'closed' },
): Body {
	const around = list[0]?.length ?? 0;
	const points = list.flat();
	const polygons: number[][] = [];
	for (let row = 0; row + 1 < list.length; row++)
		for (let i = 0; i < around; i++) {
			const next = (i + 1) % around;
			const [a, b] = [row * around, (row + 1) * around];
			polygons.push([a + i, a + next, b + next, b + i]);
		}
	const ring = (row: number): number[] => Array.from({ length: around }, (_, i) => row * around + i);
	if (ends.first === 'closed') polygons.push(ring(0).reverse());
	if (ends.last === 'closed') polygons.push(ring(list.length - 1));
	return { points, polygons };
}

/** A ring of points around the upright axis, at a height; it runs so that what is joined upwards looks outwards. */
export const circle = (radius: number, height: number, around: number): Point[] =>
	Array.from({ length: around }, (_, i): Point => {
		const angle = -(2 * Math.PI * i) / around;
		return [radius * Math.sin(-angle), height, radius * Math.cos(angle)];
	});
