/** Islands are cut at marked edges, and sewn together at them; all others stay as they are. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { joiningAt, LayoutError, layAnew, usualArrange } from '../src/arrange/index.ts';
import { layOut } from '../src/layout/index.ts';
import { type LaidMesh, topologyOf } from '../src/mesh/index.ts';
import { jointsOf, markEdge } from '../src/unwrap/index.ts';
import { box } from './oracle/meshes.ts';

const none = (mesh: LaidMesh): Uint8Array => new Uint8Array(mesh.indices.length);

/** A mesh cut or sewn at marked edges and laid out so. */
function joined(
	act: 'cut' | 'sew',
	mesh: LaidMesh,
	marks: Uint8Array,
): LaidMesh & { readonly spent: readonly number[] } {
	const topology = topologyOf(mesh);
	const { faces, marks: apart, spent } = joiningAt(act, mesh, topology, marks);
	const { uvs } = layAnew({
		mesh,
		place: topology.place,
		way: { way: 'seams' },
		faces,
		marks: apart,
		sheetOfPart: mesh.parts.map(() => 0),
		weightOfPart: mesh.parts.map(() => 1),
		sheets: [{ width: 512, height: 512 }],
		choice: usualArrange,
	});
	return { ...layOut(mesh, { uvs }), spent };
}

const islandsOf = (mesh: LaidMesh): number => new Set(topologyOf(mesh).islandOfFace).size;

/** Edges inside of islands, or between them, each by one corner. */
function edgesOf(mesh: LaidMesh, which: 'inside' | 'between'): number[] {
	const { borders, place } = topologyOf(mesh);
	const joints = jointsOf(mesh, place);
	const border = none(mesh);
	for (const corner of borders) markEdge(joints, border, corner);
	return [...mesh.indices.keys()].filter((corner) => {
		const other = joints.across[corner] as number;
		return other > corner && Boolean(border[corner]) === (which === 'between');
	});
}

const marked = (mesh: LaidMesh, corners: readonly number[]): Uint8Array => {
	const marks = none(mesh);
	const joints = jointsOf(mesh, topologyOf(mesh).place);
	for (const corner of corners) markEdge(joints, marks, corner);
	return marks;
};

describe('sewing', () => {
	test('two sides of a box at the edges where they meet makes one island of them; the others keep their own', () => {
		const mesh = box();
		const { islandOfFace, place } = topologyOf(mesh);
		const joints = jointsOf(mesh, place);
		const between = edgesOf(mesh, 'between');
		const pair = (corner: number): string =>
			[corner, joints.across[corner] as number]
				.map((each) => islandOfFace[Math.floor(each / 3)] as number)
				.sort()
				.join();
		const first = between.filter((corner) => pair(corner) === pair(between[0] as number));
		expect(first.length).toBe(2);
		const sewn = joined('sew', mesh, marked(mesh, first));
		expect(islandsOf(sewn)).toBe(5);
		expect([...sewn.spent].sort((a, b) => a - b)).toEqual(
			first.flatMap((corner) => [corner, joints.across[corner] as number]).sort((a, b) => a - b),
		);
	});
	test('after cutting gives the islands of a box back, whatever was cut', () => {
		const mesh = box();
		const inside = edgesOf(mesh, 'inside');
		fc.assert(
			fc.property(fc.uniqueArray(fc.constantFrom(...inside), { minLength: 1 }), (corners) => {
				const marks = marked(mesh, corners);
				const cut = joined('cut', mesh, marks);
				// The marks say the same of the cut mesh: faces and corners are those of before.
				const between = edgesOf(cut, 'between').filter((corner) => marks[corner]);
				expect(islandsOf(cut) > 6).toBe(between.length > 0);
				if (!between.length) return;
				expect(islandsOf(joined('sew', cut, marked(cut, between)))).toBe(6);
			}),
			{ numRuns: 8 },
		);
	});
});

describe('cutting', () => {
	test('all the way round takes a piece out, and islands that no mark goes over are not asked for', () => {
		const mesh = box();
		const { islandOfFace } = topologyOf(mesh);
		// All edges of one face: it comes out of its island.
		const cut = joined('cut', mesh, marked(mesh, [0, 1, 2]));
		expect(islandsOf(cut)).toBe(7);
		const { faces } = joiningAt('cut', mesh, topologyOf(mesh), marked(mesh, [0, 1, 2]));
		expect(new Set(faces.map((face) => islandOfFace[face]))).toEqual(new Set([islandOfFace[0]]));
	});
});

test('marks of no use are answered, with what to mark instead', () => {
	const mesh = box();
	for (const act of ['cut', 'sew'] as const) {
		expect(() => joiningAt(act, mesh, topologyOf(mesh), none(mesh))).toThrow(LayoutError);
		const other = edgesOf(mesh, act === 'cut' ? 'between' : 'inside');
		expect(() => joiningAt(act, mesh, topologyOf(mesh), marked(mesh, other))).toThrow(/nothing to (cut|sew)/);
	}
});
