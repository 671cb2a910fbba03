import type { Joints } from '../joints.ts';
import { axes, cross, dot, normalOf, pointOf, type Vec } from './plain.ts';

/** Places around an axis. The angle runs from the back, so that the seam lies where it is seen least. */
export interface Around {
	readonly axis: Vec;
	readonly center: Vec;
	/** Angle of a corner seen with its face, radians: one that stands on the axis takes the face's own. */
	angle(corner: number, face: number): number;
	/** Distance from the axis, and height along it. */
	away(p: Vec): number;
	height(p: Vec): number;
	/** Whether a face looks to the axis. */
	inward(face: number): boolean;
}

/** The axis that faces go around, through the middle of what they span. */
export function aroundAxis(joints: Joints, faces: readonly number[], name: 'x' | 'y' | 'z'): Around {
	const axis = axes[name];
	const low: [number, number, number] = [Infinity, Infinity, Infinity];
	const high: [number, number, number] = [-Infinity, -Infinity, -Infinity];
	for (const face of faces)
		for (let k = 0; k < 3; k++)
			pointOf(joints, face * 3 + k).forEach((v, i) => {
				low[i] = Math.min(low[i] as number, v);
				high[i] = Math.max(high[i] as number, v);
			});
	const center: Vec = [(low[0] + high[0]) / 2, (low[1] + high[1]) / 2, (low[2] + high[2]) / 2];
	// Back is −z, or below for an axis that runs that way.
	const back: Vec = name === 'z' ? [0, -1, 0] : [0, 0, -1];
	const side = cross(axis, back);
	const from = (p: Vec): Vec => [p[0] - center[0], p[1] - center[1], p[2] - center[2]];
	const turn = (p: Vec): number => {
		const d = from(p);
		const angle = Math.atan2(dot(d, side), dot(d, back));
		return angle < 0 ? angle + 2 * Math.PI : angle;
	};
	const away = (p: Vec): number => {
		const d = from(p);
		return Math.hypot(dot(d, side), dot(d, back));
	};
	const middle = (face: number): Vec => {
		const [a, b, c] = [0, 1, 2].map((k) => pointOf(joints, face * 3 + k)) as [Vec, Vec, Vec];
		return [(a[0] + b[0] + c[0]) / 3, (a[1] + b[1] + c[1]) / 3, (a[2] + b[2] + c[2]) / 3];
	};
	return {
		axis,
		center,
		away,
		height: (p) => dot(from(p), axis),
		inward(face) {
			const d = from(middle(face));
			const n = normalOf(joints, face);
			return dot(n, side) * dot(d, side) + dot(n, back) * dot(d, back) + 0.5 * dot(n, axis) * dot(d, axis) < 0;
		},
		angle(corner, face) {
			const p = pointOf(joints, corner);
			const own = turn(middle(face));
			if (away(p) < 1e-6 * (1 + Math.hypot(...from(p)))) return own;
			const angle = turn(p);
			// A face goes on over the seam on the side that its middle is on.
			if (angle - own > Math.PI) return angle - 2 * Math.PI;
			return own - angle > Math.PI ? angle + 2 * Math.PI : angle;
		},
	};
}

export const axisChoice = {
	of: 'axis',
	label: 'Around',
	options: [
		['y', 'Upright'],
		['x', 'Across'],
		['z', 'Front to back'],
	],
} as const;

/** Marks the edges that a seam at the back runs along: where the angle of an edge's ends differs between its two faces. */
export function markBack(joints: Joints, marks: Uint8Array, faces: readonly number[], { angle }: Around): void {
	for (const face of faces)
		for (let k = 0; k < 3; k++) {
			const corner = face * 3 + k;
			const other = joints.across[corner] as number;
			if (other < 0) continue;
			const there = Math.floor(other / 3);
			const end = there * 3 + ((other + 1) % 3);
			if (Math.abs(angle(corner, face) - angle(end, there)) > Math.PI) {
				marks[corner] = 1;
				marks[other] = 1;
			}
		}
}
