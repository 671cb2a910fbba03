import { bendAt, markEdge, piecesOf } from '../joints.ts';
import { layFlat, type Piece } from '../piece.ts';
import type { LaidFlat, UnwrapGround, UnwrapKind } from './kind.ts';

/** Along the seams that are marked, and no others where that can be. */
export interface AlongSeams {
	readonly way: 'seams';
}

/** Lays each group of faces within the marks flat. */
export function layMarked({ joints, marks, faces, tell }: UnwrapGround, mostStraightened?: number): LaidFlat {
	const pieces: Piece[] = [];
	let cuts = 0;
	let done = 0;
	for (const list of piecesOf(joints, marks, faces)) {
		const flat = layFlat(joints, marks, list, undefined, mostStraightened);
		for (const piece of flat.pieces) pieces.push(piece);
		cuts += flat.cuts;
		tell((done += list.length) / faces.length);
	}
	return { pieces, cuts };
}

export const seams: UnwrapKind<AlongSeams> = {
	way: 'seams',
	words: 'Along seams',
	hint: 'Cut at the marked seams, with the least stretch: mark them where they show least.',
	usual: { way: 'seams' },
	dials: [],
	choices: [],
	lay: (_way, ground) => layMarked(ground),
};

/** Cut wherever the surface bends more than so much. */
export interface ByAngle {
	readonly way: 'angle';
	/** Degrees. */
	readonly most: number;
}

export const angle: UnwrapKind<ByAngle> = {
	way: 'angle',
	words: 'By angle',
	hint: 'Cut wherever the surface bends more than this: for hard edges.',
	usual: { way: 'angle', most: 50 },
	dials: [{ of: 'most', label: 'Bend', least: 5, most: 175, usual: 50, unit: '°', whole: true }],
	choices: [],
	lay({ most }, ground) {
		const { joints, marks, faces } = ground;
		for (const face of faces)
			for (let k = 0; k < 3; k++) if (bendAt(joints, face * 3 + k) > most) markEdge(joints, marks, face * 3 + k);
		return layMarked(ground);
	},
};
