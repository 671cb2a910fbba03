/** Bodies that come without UVs worth the name: what is made of them is unwrapped and arranged by Eppu itself. */
import { layAllAnew } from '@eppu/core/arrange';
import { layOut } from '@eppu/core/layout';
import type { LaidMesh } from '@eppu/core/mesh';
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

/** A mesh unwrapped by itself and arranged on one square sheet. */
export const unwrapped = (mesh: LaidMesh, side: number): LaidMesh =>
	layOut(mesh, layAllAnew(mesh, { way: 'automatic', less: 0.35 }, side));
