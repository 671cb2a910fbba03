import type { Ptr } from '@eppu/kernels';
import { keptBend, OFF_FACE, tablesAt } from '../bake/index.ts';
import { type LaidMesh, tangentsOf } from '../mesh/index.ts';
import type { Field, Planes, Triple } from '../recipe/index.ts';
import { solidOf } from './hidden.ts';

/** How three values at a face's corners go on over its texels: the change across, down, and the value at the origin. */
export function overFace(
	{ uvs, indices }: LaidMesh,
	sheet: { readonly width: number; readonly height: number },
	face: number,
): (f0: number, f1: number, f2: number) => [number, number, number] {
	const t = [0, 1, 2].map((k) => {
		const i = indices[face * 3 + k] as number;
		return [(uvs[i * 2] as number) * sheet.width, (uvs[i * 2 + 1] as number) * sheet.height];
	}) as [[number, number], [number, number], [number, number]];
	const [bx, by, cx, cy] = [t[1][0] - t[0][0], t[1][1] - t[0][1], t[2][0] - t[0][0], t[2][1] - t[0][1]];
	const det = bx * cy - cx * by;
	return (f0, f1, f2) => {
		const gx = det === 0 ? 0 : ((f1 - f0) * cy - (f2 - f0) * by) / det;
		const gy = det === 0 ? 0 : ((f2 - f0) * bx - (f1 - f0) * cx) / det;
		return [gx, gy, f0 - gx * t[0][0] - gy * t[0][1]];
	};
}

/** How a model bends over each face's texels: nine numbers a face, three times the same, as planes are made from them. */
export function bendTable(
	mesh: LaidMesh,
	sheet: { readonly width: number; readonly height: number },
	angle: number,
): Float32Array {
	const { corners } = keptBend(solidOf(mesh).mesh, angle);
	const table = new Float32Array(mesh.indices.length * 3);
	for (let face = 0; face < mesh.indices.length / 3; face++) {
		const [a, b, c] = corners.subarray(face * 3, face * 3 + 3) as unknown as [number, number, number];
		const row = overFace(mesh, sheet, face)(a, b, c);
		for (let k = 0; k < 3; k++) table.set(row, face * 9 + k * 3);
	}
	return table;
}

/** How a mesh's own colours go on over each face's texels, nine numbers a face; white where it has none. */
export function colorTable(mesh: LaidMesh, sheet: { readonly width: number; readonly height: number }): Float32Array {
	const { colors, indices } = mesh;
	const table = new Float32Array(indices.length * 3);
	for (let face = 0; face < indices.length / 3; face++) {
		const over = overFace(mesh, sheet, face);
		const at = (corner: number, k: number): number => colors?.[(indices[face * 3 + corner] as number) * 4 + k] ?? 1;
		for (let k = 0; k < 3; k++) table.set(over(at(0, k), at(1, k), at(2, k)), face * 9 + k * 3);
	}
	return table;
}

/** How the way of u goes on over each face's texels, nine numbers a face, and the side that v is on. */
export function tangentTable(
	mesh: LaidMesh,
	sheet: { readonly width: number; readonly height: number },
): { readonly table: Float32Array; readonly sides: Float32Array } {
	const tangents = tangentsOf(mesh);
	const faces = mesh.indices.length / 3;
	const [table, sides] = [new Float32Array(faces * 9), new Float32Array(faces)];
	for (let face = 0; face < faces; face++) {
		const over = overFace(mesh, sheet, face);
		const at = (corner: number, k: number): number => tangents[(face * 3 + corner) * 4 + k] as number;
		for (let k = 0; k < 3; k++) table.set(over(at(0, k), at(1, k), at(2, k)), face * 9 + k * 3);
		sides[face] = at(0, 3);
	}
	return { table, sides };
}

/** What each cell's face has of a list of numbers; 1 where there is no face. */
export function sidesOf(planes: Planes, face: Int32Array, sides: Float32Array): Field {
	const field = planes.take(face.length);
	planes.floats(field, face.length).set(Float32Array.from(face, (each) => (each < 0 ? 1 : (sides[each] as number))));
	return field;
}

/** Cells, and planes in which the smooth bend stands; `solid` is the mesh that bends, in hundredths. */
interface Bending {
	readonly solid: LaidMesh;
	readonly angle: number;
	readonly wide: number;
	readonly face: Int32Array;
	/** A plane of whole numbers: below 0 where there is no face. */
	readonly cells: Field;
	readonly place: Triple;
	readonly normal: Triple;
	readonly out: Field;
	readonly into: Field;
}

/** How far the surface turns within `wide` of each cell, radians: smooth bends and hard edges together, in the planes' places. */
export function bent(
	planes: Planes,
	{ solid, angle, wide, face, cells, place, normal, out, into }: Bending,
): { readonly out: Field; readonly into: Field } {
	const [outward, inward] = [out, into].map((at) => planes.floats(at, face.length)) as [Float32Array, Float32Array];
	for (let i = 0; i < face.length; i++) {
		const smooth = (outward[i] as number) * wide;
		outward[i] = Math.max(0, smooth);
		inward[i] = Math.max(0, -smooth);
	}
	const { at, of } = tablesAt(planes.kernels, solid, `bend ${angle} ${wide}`, () => {
		const { edges, from, list, ...grid } = keptBend(solid, angle).edges(wide);
		return { tables: [edges, from, list], of: grid };
	});
	const [edges, from, list] = at as [Ptr, Ptr, Ptr];
	const grid = [...of.low, of.box, of.side] as const;
	planes.run.bendCells(
		cells,
		...place,
		...normal,
		face.length,
		edges,
		from,
		list,
		...grid,
		wide,
		wide * OFF_FACE,
		out,
		into,
	);
	return { out, into };
}
