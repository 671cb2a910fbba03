import { type LaidMesh, partOfFaces, type Topology } from '../mesh/index.ts';
import { jointsOf, markEdge } from '../unwrap/index.ts';
import { LayoutError } from './anew.ts';

/** Faces that are to be laid flat anew, and the edges at which they stay or come apart. */
export interface Joining {
	readonly faces: readonly number[];
	/** A byte a corner. */
	readonly marks: Uint8Array;
	/** Corners whose marks have no more to say once it is done. */
	readonly spent: readonly number[];
}

/**
 * Cuts islands at the marked edges that they go over, or sews islands together at the marked edges at which they meet;
 * their other borders stay, and so do all other islands. `marks` has a byte a corner. Throws LayoutError, in the artist's
 * words, where no mark is of any use for it.
 */
export function joiningAt(act: 'cut' | 'sew', mesh: LaidMesh, topology: Topology, marks: Uint8Array): Joining {
	const { islandOfFace, borders, place } = topology;
	const joints = jointsOf(mesh, place);
	const partOf = partOfFaces(mesh);
	const border = new Uint8Array(marks.length);
	for (const corner of borders) markEdge(joints, border, corner);
	const faceOf = (corner: number): number => Math.floor(corner / 3);
	const used: number[] = [];
	for (let corner = 0; corner < marks.length; corner++) {
		const other = joints.across[corner] as number;
		if (!marks[corner] || other < 0) continue;
		const onePart = partOf[faceOf(corner)] === partOf[faceOf(other)];
		if (act === 'cut' ? !border[corner] : border[corner] && onePart) used.push(corner);
	}
	if (!used.length)
		throw new LayoutError(
			act === 'cut'
				? 'No marked edge lies inside an island, so there is nothing to cut. Mark edges that an island goes over.'
				: 'No marked edge lies between islands of one part, so there is nothing to sew. Mark edges at which they meet.',
		);
	for (const corner of used) markEdge(joints, border, corner, act === 'cut' ? 1 : 0);
	const islands = new Set(used.map((corner) => islandOfFace[faceOf(corner)] as number));
	const faces = [...islandOfFace.keys()].filter((face) => islands.has(islandOfFace[face] as number));
	return { faces, marks: border, spent: act === 'sew' ? used : [] };
}
