import { markAutomatic } from './automatic.ts';
import { type Chart, chartOf } from './chart.ts';
import { flatten, measureFlat } from './flatten.ts';
import { type Joints, piecesOf } from './joints.ts';
import { openUp } from './openUp.ts';
import { overlaps } from './overlap.ts';
import { clustersOf } from './segment.ts';
import { straightened } from './straight.ts';

/** A piece of surface laid flat: where the corners of its faces lie, 6 numbers a face, units of the model, v upwards. */
export interface Piece {
	readonly faces: readonly number[];
	readonly uvs: Float64Array;
	/** Means by area, 1 and up. */
	readonly angleStretch: number;
	readonly areaStretch: number;
}

/** Cells along a piece in which it is looked for whether it lies over itself: finer than most sheets show it. */
const FINE = 900;

/** A ribbon is laid straight where that stretches it no more than this: it is painted along, and takes less room. */
const MOST_STRAIGHTENED = 1.15;

/** A flat chart by its corners. */
export function pieceOf(chart: Chart, places: Float64Array): Piece {
	const { angleStretch, areaStretch } = measureFlat(chart, places);
	const uvs = new Float64Array(chart.corners.length * 2);
	chart.corners.forEach((v, corner) => {
		uvs[corner * 2] = places[v * 2] as number;
		uvs[corner * 2 + 1] = places[v * 2 + 1] as number;
	});
	return { faces: chart.faces, uvs, angleStretch, areaStretch };
}

type Split = (joints: Joints, marks: Uint8Array, faces: readonly number[]) => number[][];

/** Ways to take a piece apart that does not lie flat as one, from few pieces to many; one face by itself always lies flat. */
const splits: readonly Split[] = [
	...[0.3, 0.7, 1].map(
		(less): Split =>
			(joints, marks, faces) => {
				markAutomatic(joints, marks, faces, less);
				return piecesOf(joints, marks, faces);
			},
	),
	...[0.1, 0.03, 0].map(
		(limit): Split =>
			(joints, marks, faces) =>
				clustersOf(joints, marks, faces, limit),
	),
];

/**
 * Lays a group of faces that hang together flat; cut where it cannot be otherwise: a piece without a rim is opened up,
 * and one that would turn over or lie over itself falls into two or more. `cuts` counts what had to be cut.
 */
export function layFlat(
	joints: Joints,
	marks: Uint8Array,
	faces: readonly number[],
	rounds = 12,
	/** A ribbon is laid straight where that stretches it no more than this. */
	mostStraightened = MOST_STRAIGHTENED,
): { readonly pieces: readonly Piece[]; readonly cuts: number } {
	const cut = openUp(joints, marks, faces) ? 1 : 0;
	const chart = chartOf(joints, marks, faces);
	const ribbon = straightened(chart, mostStraightened);
	if (ribbon) return { pieces: [pieceOf(chart, ribbon)], cuts: cut };
	const flat = flatten(chart, rounds);
	if (faces.length === 1 || (flat.flips === 0 && !overlaps(chart, flat.places, FINE)))
		return { pieces: [pieceOf(chart, flat.places)], cuts: cut };
	for (const split of splits) {
		const apart = marks.slice();
		const parts = split(joints, apart, faces);
		if (parts.length < 2) continue;
		const done = parts.map((part) => layFlat(joints, apart, part, rounds, mostStraightened));
		return {
			pieces: done.flatMap(({ pieces }) => pieces),
			cuts: cut + 1 + done.reduce((sum, each) => sum + each.cuts, 0),
		};
	}
	return { pieces: [pieceOf(chart, flat.places)], cuts: cut };
}
