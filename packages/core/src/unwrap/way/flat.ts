import type { UnwrapKind } from './kind.ts';
import { axes, commonNormal, dot, layGroups, normalOf, planeOf, pointOf, type Vec } from './plain.ts';

/** Seen from one side, as a decal or a plank's face is. */
export interface Flat {
	readonly way: 'flat';
	/** The side that it is seen from; the best one for the faces at hand. */
	readonly from: 'best' | 'x' | 'y' | 'z';
}

/** Cosine of the angle under which a face is seen too flat. */
const EDGE_ON = 0.15;

export const flat: UnwrapKind<Flat> = {
	way: 'flat',
	words: 'Flat',
	hint: 'As seen from one side; what looks away is laid beside it, so that it reads right too.',
	usual: { way: 'flat', from: 'best' },
	dials: [],
	choices: [
		{
			of: 'from',
			label: 'Seen from',
			options: [
				['best', 'Best side'],
				['x', 'Side'],
				['y', 'Above'],
				['z', 'Front'],
			],
		},
	],
	lay({ from }, { joints, marks, faces }) {
		const toward: Vec = from === 'best' ? commonNormal(joints, faces) : axes[from];
		const opposite = ([x, y, z]: Vec): Vec => [-x, -y, -z];
		const [right, up] = planeOf(toward);
		// What is seen edge on has nothing to paint on from there: it is laid as seen from its own side.
		const directions = [toward, opposite(toward), right, opposite(right), up, opposite(up)];
		const sides = directions.map(planeOf);
		const pieces = layGroups(
			joints,
			marks,
			faces,
			(face) => {
				const n = normalOf(joints, face);
				const facing = dot(n, toward);
				if (Math.abs(facing) > EDGE_ON) return facing > 0 ? 0 : 1;
				const [side, high] = [dot(n, right), dot(n, up)];
				if (Math.abs(side) >= Math.abs(high)) return side > 0 ? 2 : 3;
				return high > 0 ? 4 : 5;
			},
			(group, corner) => {
				const [across, upright] = sides[group] as readonly [Vec, Vec];
				const p = pointOf(joints, corner);
				return [dot(p, across), dot(p, upright)];
			},
		);
		return { pieces, cuts: 0 };
	},
};
