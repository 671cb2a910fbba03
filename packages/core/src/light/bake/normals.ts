import type { Ground, SurfaceGround } from '../../recipe/index.ts';
import { among, one } from '../../shape/index.ts';
import { type BakeBase, type BakeKind, bakeShape, colorBytes } from './kind.ts';

/**
 * Which way the surface looks, as colours from -1 to 1: X, Y and Z of the model; or as seen from the model's own surface,
 * where u goes, where v goes (upwards), and away from it: flat blue but where a finer mesh looks elsewhere.
 */
export interface NormalsBake extends BakeBase {
	readonly bake: 'normals';
	readonly space?: 'object' | 'tangent';
}

export const normals: BakeKind<NormalsBake> = {
	bake: 'normals',
	shape: bakeShape({ bake: one('normals'), space: among(['object', 'tangent']) }, ['space']),
	format: 'color',
	dear: () => false,
	words: ({ space }) => (space === 'tangent' ? 'Normals of the surface' : 'Normals of the object'),
	make(bake, ground) {
		const fields = normals.fields(bake, ground);
		return fields && ground.surface ? colorBytes(ground.planes, fields, ground.surface.face) : null;
	},
	fields({ space }, ground) {
		const { planes, surface } = ground;
		if (!surface) return null;
		if (space === 'tangent') return inFrame(ground, surface);
		const cells = surface.face.length;
		return surface.normal.map((plane) => {
			const to = planes.take(cells);
			planes.run.rampCells(surface.cells, plane, cells, 0.5, 0.5, to);
			return to;
		});
	},
};

/** Normals by the model's own frame: what, laid out in it, gives them again. */
function inFrame({ planes }: Ground, surface: SurfaceGround): readonly number[] {
	const count = surface.face.length;
	const { tangent, normal, side } = surface.frame();
	const look = (at: number): Float32Array => planes.floats(at, count);
	const fields = [planes.take(count), planes.take(count), planes.take(count)];
	const [T, N, M, out] = [tangent, normal, surface.normal, fields].map((all) => all.map(look)) as [
		Float32Array[],
		Float32Array[],
		Float32Array[],
		Float32Array[],
	];
	const sides = look(side);
	for (let i = 0; i < count; i++) {
		if ((surface.face[i] as number) < 0) continue;
		const at = (list: Float32Array[]): [number, number, number] =>
			list.map((each) => each[i] as number) as [number, number, number];
		const [t, n, m] = [at(T), at(N), at(M)];
		const cross = (a: readonly number[], b: readonly number[]): [number, number, number] => {
			const [ax, ay, az] = a as [number, number, number];
			const [bx, by, bz] = b as [number, number, number];
			return [ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx];
		};
		const dot = (a: readonly number[], b: readonly number[]): number =>
			a.reduce((sum, v, k) => sum + v * (b[k] as number), 0);
		const b = cross(n, t).map((v) => v * (sides[i] as number)) as [number, number, number];
		// By Cramer's rule: how much of each of the three ways it takes.
		const shares = [dot(m, cross(b, n)), dot(t, cross(m, n)), dot(t, cross(b, m))].map(
			(v) => v * Math.sign(dot(t, cross(b, n))),
		);
		const length = Math.hypot(...shares) || 1;
		shares.forEach((v, k) => {
			(out[k] as Float32Array)[i] = 0.5 + (0.5 * v) / length;
		});
	}
	return fields;
}
