import type { UnwrapKind } from './kind.ts';
import { layGroups, pointOf } from './plain.ts';
import { aroundAxis, axisChoice, markBack } from './round.ts';

/** By longitude and latitude around an axis. */
export interface Sphere {
	readonly way: 'sphere';
	readonly axis: 'x' | 'y' | 'z';
}

export const sphere: UnwrapKind<Sphere> = {
	way: 'sphere',
	words: 'Sphere',
	hint: 'By longitude and latitude, one seam at the back: for balls and domes; its poles are stretched.',
	usual: { way: 'sphere', axis: 'y' },
	dials: [],
	choices: [axisChoice],
	lay({ axis: name }, { joints, marks, faces }) {
		const round = aroundAxis(joints, faces, name);
		markBack(joints, marks, faces, round);
		let [sum, area] = [0, 0];
		for (const face of faces) {
			for (let k = 0; k < 3; k++) {
				const p = pointOf(joints, face * 3 + k);
				sum += ((joints.areas[face] as number) * Math.hypot(round.away(p), round.height(p))) / 3;
			}
			area += joints.areas[face] as number;
		}
		const radius = area > 0 ? sum / area : 1;
		const pieces = layGroups(
			joints,
			marks,
			faces,
			(face) => (round.inward(face) ? 1 : 0),
			(group, corner, face) => {
				const p = pointOf(joints, corner);
				const along = round.angle(corner, face) * radius;
				// What looks inwards is seen from within.
				return [group ? -along : along, Math.atan2(round.height(p), round.away(p)) * radius];
			},
		);
		return { pieces, cuts: 0 };
	},
};
