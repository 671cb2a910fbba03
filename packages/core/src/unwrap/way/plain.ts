import type { Chart } from '../chart.ts';
import type { Joints } from '../joints.ts';
import { piecesOf } from '../joints.ts';
import { type Piece, pieceOf } from '../piece.ts';

export type Vec = readonly [number, number, number];

export const dot = (a: Vec, b: Vec): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: Vec, b: Vec): Vec => [
	a[1] * b[2] - a[2] * b[1],
	a[2] * b[0] - a[0] * b[2],
	a[0] * b[1] - a[1] * b[0],
];
export const unit = (a: Vec): Vec => {
	const long = Math.hypot(...a) || 1;
	return [a[0] / long, a[1] / long, a[2] / long];
};

export const axes: Readonly<Record<'x' | 'y' | 'z', Vec>> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };

export const normalOf = ({ normals }: Joints, face: number): Vec => [
	normals[face * 3] as number,
	normals[face * 3 + 1] as number,
	normals[face * 3 + 2] as number,
];

/** Where a corner of a face stands. */
export function pointOf({ mesh: { positions, indices } }: Joints, corner: number): Vec {
	const v = (indices[corner] as number) * 3;
	return [positions[v] as number, positions[v + 1] as number, positions[v + 2] as number];
}

/** The common direction of faces, by area; of a body that is closed the axis along which most of it is seen. */
export function commonNormal(joints: Joints, faces: readonly number[]): Vec {
	const sum: [number, number, number] = [0, 0, 0];
	for (const face of faces)
		for (let k = 0; k < 3; k++)
			sum[k] = (sum[k] as number) + (joints.areas[face] as number) * (joints.normals[face * 3 + k] as number);
	const whole = faces.reduce((all, face) => all + (joints.areas[face] as number), 0);
	if (Math.hypot(...sum) > 0.02 * whole) return unit(sum);
	const seen = (axis: Vec): number =>
		faces.reduce((all, face) => all + (joints.areas[face] as number) * Math.abs(dot(normalOf(joints, face), axis)), 0);
	return [axes.z, axes.x, axes.y].reduce((best, axis) => (seen(axis) > seen(best) * 1.01 ? axis : best));
}

/**
 * Right and up of a plane seen from where a direction points: up is the model's up, or away from whoever stands in front
 * where the plane is level.
 */
export function planeOf(direction: Vec): readonly [right: Vec, up: Vec] {
	const level = Math.abs(direction[1]) > 0.999;
	const right = unit(cross(level ? [0, 0, -Math.sign(direction[1])] : [0, 1, 0], direction));
	return [right, cross(direction, right)];
}

/** Faces as a chart in which every corner is a vertex of its own: to be measured, not flattened. */
function looseChart(joints: Joints, faces: readonly number[]): Chart {
	const count = faces.length * 3;
	return {
		faces,
		corners: Uint32Array.from({ length: count }, (_, i) => i),
		points: Float64Array.from(faces.flatMap((face) => [0, 1, 2].flatMap((k) => pointOf(joints, face * 3 + k)))),
		rim: [],
		rims: 0,
		euler: 0,
	};
}

/** Faces by the group that each belongs to, cut where they meet, each laid by `place` of its corners: u right, v up. */
export function layGroups(
	joints: Joints,
	marks: Uint8Array,
	faces: readonly number[],
	groupOf: (face: number) => number,
	place: (group: number, corner: number, face: number) => readonly [number, number],
): Piece[] {
	const groups = new Map<number, number[]>();
	for (const face of faces) {
		const group = groupOf(face);
		groups.set(group, [...(groups.get(group) ?? []), face]);
	}
	return [...groups].flatMap(([group, list]) =>
		piecesOf(joints, marks, list).map((piece): Piece => {
			const uvs = new Float64Array(piece.length * 6);
			piece.forEach((face, i) => {
				for (let k = 0; k < 3; k++) uvs.set(place(group, face * 3 + k, face), i * 6 + k * 2);
			});
			return pieceOf(looseChart(joints, piece), uvs);
		}),
	);
}
