/** Pointing at a cut finds all its sides: the edge there, and the one that it goes on in. */
import { nextCorner, topologyOf } from '@eppu/core/mesh';
import { expect, test } from '@jest/globals';
import { box } from '../../../packages/core/test/oracle/meshes.ts';
import { cutAt } from '../src/screens/layout/seamPartner.ts';
import { shownMesh } from '../src/workers/shownModel.ts';

const mesh = box();
const topology = topologyOf(mesh);
const model = shownMesh('m', mesh, topology, ['s']);
const sheet = { id: 's', name: 'S', width: 400, height: 400, bleed: 4, base: null, layers: [], guide: null };
const ends = (corner: number): string[] =>
	[corner, nextCorner(corner)]
		.map((each) => {
			const v = (mesh.indices[each] as number) * 3;
			return [...mesh.positions.subarray(v, v + 3)].join();
		})
		.sort();

test('beside each cut both sides of it are found, and they are the same edge of the model', () => {
	let found = 0;
	for (const corner of topology.borders) {
		const face = Math.floor(corner / 3);
		const at = (k: number, axis: 0 | 1): number => (mesh.uvs[(mesh.indices[k] as number) * 2 + axis] as number) * 400;
		const middle = (axis: 0 | 1): number => (at(corner, axis) + at(nextCorner(corner), axis)) / 2;
		const inside = (axis: 0 | 1): number => (at(face * 3, axis) + at(face * 3 + 1, axis) + at(face * 3 + 2, axis)) / 3;
		const [x, y] = [0, 1].map((axis) => middle(axis as 0) * 0.97 + inside(axis as 0) * 0.03) as [number, number];
		const island = topology.islandOfFace[face] as number;
		const cut = cutAt(model, { face, part: 0, island, sheet: 's', x, y, screen: null, texelsPerPx: null }, sheet);
		expect([...(cut ?? [])]).toContain(corner);
		expect(cut).toHaveLength(2);
		for (const side of cut ?? []) expect(ends(side)).toEqual(ends(corner));
		found++;
	}
	expect(found).toBe(topology.borders.length);
	const far = {
		face: 0,
		part: 0,
		island: topology.islandOfFace[0] as number,
		sheet: 's',
		x: 68,
		y: 76,
		screen: null,
		texelsPerPx: null,
	};
	expect(cutAt(model, far, sheet)).toBeNull();
});
