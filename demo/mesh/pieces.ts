/** Bodies that come without UVs worth the name: what is made of them is unwrapped and arranged by Eppu itself. */
import { layAllAnew, usualArrange } from '@eppu/core/arrange';
import { layOut } from '@eppu/core/layout';
import { type LaidMesh, nextCorner, topologyOf } from '@eppu/core/mesh';
import { jointsOf, markEdge } from '@eppu/core/unwrap';
import { addBox, around, type MeshBuilder, type P3, type Rect } from './shapes.ts';

/** They are laid out anew: where they lie until then is of no use. */
const anywhere: Rect = { x: 0.1, y: 0.1, w: 0.8, h: 0.8 };

/** A line of radius and height, turned about the upright axis. */
export function turned(
	builder: MeshBuilder,
	profile: readonly (readonly [radius: number, y: number])[],
	sides: number,
	x = 0,
	z = 0,
): void {
	const rows = profile.length - 1;
	builder.grid(
		sides,
		rows,
		(u, v) => {
			const [radius, y] = profile[Math.round(v * rows)] as readonly [number, number];
			return around(u, radius, y, x, z);
		},
		anywhere,
	);
}

export const block = (builder: MeshBuilder, center: P3, size: P3): void =>
	addBox(builder, center, size, Array<Rect>(6).fill(anywhere));

/** A round bar along a way in a plane; `way` gives places for t 0..1. */
export function bar(builder: MeshBuilder, way: (t: number) => P3, radius: number, steps: number, sides = 8): void {
	builder.grid(
		sides,
		steps,
		(u, v) => {
			const [p, q] = [way(Math.max(0, v - 1e-3)), way(Math.min(1, v + 1e-3))];
			const along = [0, 1, 2].map((k) => (q[k] as number) - (p[k] as number));
			const length = Math.hypot(...along) || 1;
			const [ax, ay, az] = along.map((x) => x / length) as [number, number, number];
			// Two ways across the bar; ways here never run along z.
			const [sx, sy] = [ay, -ax];
			const flat = Math.hypot(sx, sy) || 1;
			const one: P3 = [sx / flat, sy / flat, 0];
			const other: P3 = [ay * one[2] - az * one[1], az * one[0] - ax * one[2], ax * one[1] - ay * one[0]];
			const at = way(v);
			const turn = -2 * Math.PI * u;
			return [0, 1, 2].map(
				(k) =>
					(at[k] as number) + radius * (Math.cos(turn) * (one[k] as number) + Math.sin(turn) * (other[k] as number)),
			) as unknown as P3;
		},
		anywhere,
	);
}

/** A mesh unwrapped by itself, marked seams kept, and arranged on one square sheet. */
export const unwrapped = (mesh: LaidMesh, side: number, marks?: Uint8Array<ArrayBuffer>): LaidMesh =>
	layOut(mesh, layAllAnew(mesh, { way: 'automatic', less: 0.35 }, side, usualArrange, marks));

/**
 * Seams up the left and the right of turned parts, from a height on: whole rings leave their middles bare on a sheet,
 * halves lie in each other.
 */
export function halvedFrom(mesh: LaidMesh, heights: Readonly<Record<string, number>>): Uint8Array<ArrayBuffer> {
	const { positions, indices, parts } = mesh;
	const joints = jointsOf(mesh, topologyOf(mesh).place);
	const marks = new Uint8Array(indices.length);
	const at = (corner: number): P3 =>
		[0, 1, 2].map((k) => positions[(indices[corner] as number) * 3 + k] as number) as unknown as P3;
	for (const { name, firstFace, faces } of parts) {
		const low = heights[name];
		if (low === undefined) continue;
		for (let corner = firstFace * 3; corner < (firstFace + faces) * 3; corner++) {
			const ends = [at(corner), at(nextCorner(corner))];
			if (ends.every(([, y, z]) => Math.abs(z) < 1e-6 && y > low - 1e-6)) markEdge(joints, marks, corner);
		}
	}
	return marks;
}
