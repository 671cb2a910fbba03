import type { Mesh } from './mesh.ts';

/** A corner within this share of a face's own size of the plane lies in it. */
const IN_PLANE = 1e-9;

/** Where a plane (points with n·p = at) cuts the faces of a mesh: pairs of places x, y, z. */
export function planeCut(
	{ positions, indices }: Pick<Mesh, 'positions' | 'indices'>,
	{ normal, at }: { readonly normal: readonly [number, number, number]; readonly at: number },
): Float32Array {
	const out: number[] = [];
	const [nx, ny, nz] = normal;
	for (let face = 0; face < indices.length; face += 3) {
		const ends: number[] = [];
		for (let k = 0; k < 3; k++) {
			const a = (indices[face + k] as number) * 3;
			const b = (indices[face + ((k + 1) % 3)] as number) * 3;
			const [ax, ay, az] = [positions[a] as number, positions[a + 1] as number, positions[a + 2] as number];
			const [bx, by, bz] = [positions[b] as number, positions[b + 1] as number, positions[b + 2] as number];
			const da = nx * ax + ny * ay + nz * az - at;
			const db = nx * bx + ny * by + nz * bz - at;
			// An edge that begins on one side and ends on the other, or just in the plane.
			if (da >= 0 === db >= 0) continue;
			const t = Math.abs(da - db) < IN_PLANE ? 0 : da / (da - db);
			ends.push(ax + (bx - ax) * t, ay + (by - ay) * t, az + (bz - az) * t);
		}
		if (ends.length === 6) out.push(...ends);
	}
	return Float32Array.from(out);
}
