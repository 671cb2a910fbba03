import type { UnwrapKind } from './kind.ts';
import { dot, layGroups, normalOf, planeOf, pointOf, type Vec } from './plain.ts';
import { aroundAxis, axisChoice, markBack } from './round.ts';

/** Rolled off around an axis, its ends as seen along it. */
export interface Cylinder {
	readonly way: 'cylinder';
	readonly axis: 'x' | 'y' | 'z';
}

export const cylinder: UnwrapKind<Cylinder> = {
	way: 'cylinder',
	words: 'Cylinder',
	hint: 'Rolled off around an axis with one seam at the back, the ends beside it: for cans, handles and posts.',
	usual: { way: 'cylinder', axis: 'y' },
	dials: [],
	choices: [axisChoice],
	lay({ axis: name }, { joints, marks, faces }) {
		const round = aroundAxis(joints, faces, name);
		const end = (face: number): number => {
			const along = dot(normalOf(joints, face), round.axis);
			if (Math.abs(along) > 0.8) return along > 0 ? 1 : 2;
			return round.inward(face) ? 3 : 0;
		};
		markBack(
			joints,
			marks,
			faces.filter((face) => end(face) % 3 === 0),
			round,
		);
		const { axis } = round;
		const planes = [planeOf(axis), planeOf([-axis[0], -axis[1], -axis[2]])] as const;
		// As wide as the surface is around, by area.
		let [sum, area] = [0, 0];
		for (const face of faces) {
			if (end(face) % 3) continue;
			for (let k = 0; k < 3; k++)
				sum += ((joints.areas[face] as number) * round.away(pointOf(joints, face * 3 + k))) / 3;
			area += joints.areas[face] as number;
		}
		const radius = area > 0 ? sum / area : 1;
		const pieces = layGroups(joints, marks, faces, end, (group, corner, face) => {
			const p = pointOf(joints, corner);
			if (group === 0) return [round.angle(corner, face) * radius, round.height(p)];
			// What looks inwards is seen from within.
			if (group === 3) return [-round.angle(corner, face) * radius, round.height(p)];
			const [right, up] = planes[group - 1] as readonly [Vec, Vec];
			return [dot(p, right), dot(p, up)];
		});
		return { pieces, cuts: 0 };
	},
};
