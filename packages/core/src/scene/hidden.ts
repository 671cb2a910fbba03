import { type OcclusionOf, PLACE_NUMBERS, raysOf } from '../bake/index.ts';
import { type LaidMesh, type Mesh, meshBounds } from '../mesh/index.ts';
import type { Field, Planes, Triple } from '../recipe/index.ts';

/** A model as grounds have it: in hundredths of its size from its middle, with the way that each face looks. */
export interface Solid {
	readonly mesh: Mesh;
	/** 3 a face. */
	readonly facing: Float32Array;
}

const known = new WeakMap<LaidMesh, Solid>();

export function solidOf(mesh: LaidMesh): Solid {
	const before = known.get(mesh);
	if (before) return before;
	const { center, radius } = meshBounds(mesh);
	const positions = mesh.positions.map((v, i) => ((v - (center[i % 3] as number)) * 50) / radius);
	const facing = new Float32Array(mesh.indices.length);
	for (let face = 0; face < mesh.indices.length; face += 3) {
		const at = (k: number, axis: number): number => positions[(mesh.indices[face + k] as number) * 3 + axis] as number;
		const [e, f] = [1, 2].map((k) => [0, 1, 2].map((axis) => at(k, axis) - at(0, axis))) as [
			[number, number, number],
			[number, number, number],
		];
		const n = [e[1] * f[2] - e[2] * f[1], e[2] * f[0] - e[0] * f[2], e[0] * f[1] - e[1] * f[0]];
		const length = Math.hypot(...n) || 1;
		for (let axis = 0; axis < 3; axis++) facing[face + axis] = (n[axis] as number) / length;
	}
	const made = { mesh: { ...mesh, positions }, facing };
	known.set(mesh, made);
	return made;
}

/** In which order the turns of a block of four by four stand, so that neighbours differ most: B. Bayer (1973). */
const turns = [0, 8, 2, 10, 12, 4, 14, 6, 3, 11, 1, 9, 15, 7, 13, 5] as const;

/** The cells that are asked about. */
export interface HiddenCells {
	/** Cells in a row, and the number of the first cell's column and row on the sheet. */
	readonly width: number;
	readonly column: number;
	readonly row: number;
	readonly face: Int32Array;
	readonly place: Triple;
	readonly normal: Triple;
}

/**
 * How much of the sky a model hides from cells, 0..1. The directions of each are turned otherwise than its neighbours', so
 * that four by four together see sixteen times as many.
 */
export function hiddenFrom(
	planes: Planes,
	{ width, column, row, face, place, normal }: HiddenCells,
	{ mesh, facing }: Solid,
	of: OcclusionOf,
	only: Field | null,
): Field {
	const count = face.length;
	const field = planes.take(count);
	const wanted = only === null ? null : planes.floats(only, count);
	const cells: number[] = [];
	for (let i = 0; i < count; i++) if ((face[i] as number) >= 0 && wanted?.[i] !== 0) cells.push(i);
	const list = new Float32Array(cells.length * PLACE_NUMBERS);
	const [x, y, z] = place.map((at) => planes.floats(at, count)) as [Float32Array, Float32Array, Float32Array];
	const [u, v, w] = normal.map((at) => planes.floats(at, count)) as [Float32Array, Float32Array, Float32Array];
	cells.forEach((i, n) => {
		const block = ((Math.floor(i / width) + row) & 3) * 4 + (((i % width) + column) & 3);
		const turn = ((turns[block] as number) * Math.PI) / 8;
		const f = (face[i] as number) * 3;
		const own = [facing[f], facing[f + 1], facing[f + 2]] as [number, number, number];
		// A normal that looks into the face is none.
		const smooth = [u[i], v[i], w[i]] as [number, number, number];
		const used = smooth[0] * own[0] + smooth[1] * own[1] + smooth[2] * own[2] > 0.05 ? smooth : own;
		list.set(
			[x[i] as number, y[i] as number, z[i] as number, ...used, Math.cos(turn), Math.sin(turn), ...own],
			n * PLACE_NUMBERS,
		);
	});
	const found = raysOf(planes.kernels, mesh).occlusion(list, of);
	// Memory may have grown meanwhile: the planes are looked at anew.
	const out = planes.floats(field, count).fill(0);
	cells.forEach((i, n) => {
		out[i] = found[n] as number;
	});
	return field;
}
