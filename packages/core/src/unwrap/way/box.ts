import type { UnwrapKind } from './kind.ts';
import { dot, layGroups, normalOf, planeOf, pointOf, type Vec } from './plain.ts';

/** From six sides, each face from the one that it looks to most. */
export interface Box {
	readonly way: 'box';
}

const sides: readonly Vec[] = [
	[1, 0, 0],
	[-1, 0, 0],
	[0, 1, 0],
	[0, -1, 0],
	[0, 0, 1],
	[0, 0, -1],
];

export const box: UnwrapKind<Box> = {
	way: 'box',
	words: 'Box',
	hint: 'From six sides, each face from the one that it looks to most: for crates, planks and houses.',
	usual: { way: 'box' },
	dials: [],
	choices: [],
	lay(_way, { joints, marks, faces }) {
		const planes = sides.map(planeOf);
		const pieces = layGroups(
			joints,
			marks,
			faces,
			(face) => {
				const n = normalOf(joints, face);
				return sides.reduce((best, side, i) => (dot(n, side) > dot(n, sides[best] as Vec) + 1e-6 ? i : best), 0);
			},
			(group, corner) => {
				const [right, up] = planes[group] as readonly [Vec, Vec];
				const p = pointOf(joints, corner);
				return [dot(p, right), dot(p, up)];
			},
		);
		return { pieces, cuts: 0 };
	},
};
