/** Builds meshes from patches: grids of points, each one island in a rectangle of its sheet. */
import type { LaidMesh } from '@eppu/core/mesh';

export type P3 = readonly [number, number, number];
/** Island rectangle on the sheet, 0..1, v downwards. */
export interface Rect {
	readonly x: number;
	readonly y: number;
	readonly w: number;
	readonly h: number;
}

export interface MeshBuilder {
	/** Begins a part; the patches that follow belong to it. */
	part(name: string): void;
	/**
	 * A grid of nu by nv cells; u runs along the rectangle's width, v down its height. Faces look along du × -dv.
	 * `rows` places the rows on the rectangle, 0..1; evenly where left out.
	 */
	grid(nu: number, nv: number, point: (u: number, v: number) => P3, rect: Rect, rows?: readonly number[]): void;
	/** A fan around a centre: `rim` gives the border for t 0..1 counter-clockwise seen from outside; a round island. */
	fan(n: number, center: P3, rim: (t: number) => P3, rect: Rect): void;
	mesh(): LaidMesh;
}

const sub = (a: P3, b: P3): P3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const cross = (a: P3, b: P3): P3 => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
const unit = (a: P3): P3 => {
	const length = Math.sqrt(a[0] * a[0] + a[1] * a[1] + a[2] * a[2]) || 1;
	return [a[0] / length, a[1] / length, a[2] / length];
};

export function createMeshBuilder(): MeshBuilder {
	const positions: number[] = [];
	const uvs: number[] = [];
	const indices: number[] = [];
	const normals: number[] = [];
	const parts: { name: string; firstFace: number; faces: number }[] = [];
	const count = (): number => indices.length / 3;
	const close = (): void => {
		const last = parts.at(-1);
		if (last) last.faces = count() - last.firstFace;
	};
	const apart = (v: number, w: number): boolean =>
		[0, 1, 2].some((k) => Math.abs((positions[v * 3 + k] as number) - (positions[w * 3 + k] as number)) > 1e-9);
	const smooth = (from: number, firstFace: number): void => {
		const vertices = positions.length / 3;
		const sums: [number, number, number][] = Array.from({ length: vertices - from }, () => [0, 0, 0]);
		const at = (v: number): P3 => [
			positions[v * 3] as number,
			positions[v * 3 + 1] as number,
			positions[v * 3 + 2] as number,
		];
		// Points of a patch that meet (the two ends of a tube) share their normal.
		const same = new Map<string, number>();
		const home = (v: number): number => {
			const key = at(v)
				.map((x) => x.toFixed(5))
				.join();
			const known = same.get(key);
			if (known === undefined) same.set(key, v);
			return known ?? v;
		};
		for (let f = firstFace; f < count(); f++) {
			const [a, b, c] = [0, 1, 2].map((k) => indices[f * 3 + k] as number) as [number, number, number];
			const n = cross(sub(at(b), at(a)), sub(at(c), at(a)));
			for (const v of [a, b, c])
				n.forEach((x, i) => {
					const sum = sums[home(v) - from] as [number, number, number];
					sum[i] = (sum[i] as number) + x;
				});
		}
		for (let v = from; v < vertices; v++) normals.push(...unit(sums[home(v) - from] as [number, number, number]));
	};
	return {
		part(name) {
			close();
			parts.push({ name, firstFace: count(), faces: 0 });
		},
		grid(nu, nv, point, rect, rows) {
			const base = positions.length / 3;
			const first = count();
			for (let j = 0; j <= nv; j++)
				for (let i = 0; i <= nu; i++) {
					positions.push(...point(i / nu, j / nv));
					uvs.push(rect.x + (rect.w * i) / nu, rect.y + rect.h * (rows?.[j] ?? j / nv));
				}
			for (let j = 0; j < nv; j++)
				for (let i = 0; i < nu; i++) {
					const a = base + j * (nu + 1) + i;
					const b = a + nu + 1;
					// At a pole a row is one point: half of its cells' faces would have no area.
					if (apart(a, a + 1)) indices.push(a, b, a + 1);
					if (apart(b, b + 1)) indices.push(a + 1, b, b + 1);
				}
			smooth(base, first);
		},
		fan(n, center, rim, rect) {
			const base = positions.length / 3;
			const first = count();
			positions.push(...center);
			uvs.push(rect.x + rect.w / 2, rect.y + rect.h / 2);
			for (let i = 0; i < n; i++) {
				positions.push(...rim(i / n));
				const turn = (2 * Math.PI * i) / n;
				uvs.push(rect.x + (rect.w / 2) * (1 + Math.cos(turn)), rect.y + (rect.h / 2) * (1 - Math.sin(turn)));
			}
			for (let i = 0; i < n; i++) indices.push(base, base + 1 + i, base + 1 + ((i + 1) % n));
			smooth(base, first);
		},
		mesh() {
			close();
			return {
				positions: new Float32Array(positions),
				uvs: new Float32Array(uvs),
				normals: new Float32Array(normals),
				indices: new Uint32Array(indices),
				parts: parts.map((part) => ({ ...part })),
			};
		},
	};
}

/** A point of an upright tube: u around (counter-clockwise from above, so that faces look outwards), y upwards. */
export const around = (u: number, radius: number, y: number, x = 0, z = 0): P3 => {
	const turn = 2 * Math.PI * u;
	return [x + radius * Math.sin(turn), y, z + radius * Math.cos(turn)];
};

/** The six sides of a box as patches; `rects` in the order front, right, back, left, top, bottom. */
export function addBox(
	builder: MeshBuilder,
	[cx, cy, cz]: P3,
	[sx, sy, sz]: P3,
	rects: readonly Rect[],
	cells = 1,
): void {
	const [x, y, z] = [sx / 2, sy / 2, sz / 2];
	const side = (o: P3, du: P3, dv: P3, rect: Rect | undefined): void => {
		if (!rect) return;
		builder.grid(
			cells,
			cells,
			(u, v) => [
				cx + o[0] + du[0] * u + dv[0] * v,
				cy + o[1] + du[1] * u + dv[1] * v,
				cz + o[2] + du[2] * u + dv[2] * v,
			],
			rect,
		);
	};
	side([-x, y, z], [sx, 0, 0], [0, -sy, 0], rects[0]);
	side([x, y, z], [0, 0, -sz], [0, -sy, 0], rects[1]);
	side([x, y, -z], [-sx, 0, 0], [0, -sy, 0], rects[2]);
	side([-x, y, -z], [0, 0, sz], [0, -sy, 0], rects[3]);
	side([-x, y, -z], [sx, 0, 0], [0, 0, sz], rects[4]);
	side([-x, -y, z], [sx, 0, 0], [0, 0, -sz], rects[5]);
}
