/** Islands moved by hand on their sheet. */
import { topologyOf } from '@eppu/core/mesh';
import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { box } from '../../../packages/core/test/oracle/meshes.ts';
import {
	alignedCorners,
	alignments,
	boxOf,
	cornersOf,
	liesOn,
	movedCorners,
	shownWith,
} from '../src/screens/layout/handMoves.ts';
import type { ShownModel } from '../src/studio/told.ts';

const mesh = box();
const { islandOfFace, seams: _seams, inner, borders } = topologyOf(mesh);
const model: ShownModel = {
	id: 'm',
	positions: mesh.positions,
	normals: mesh.normals,
	uvs: mesh.uvs,
	indices: mesh.indices,
	parts: mesh.parts.map((part) => ({ ...part, sheet: 's' })),
	partOfFace: new Uint16Array(mesh.indices.length / 3),
	islandOfFace,
	seams: new Uint32Array(0),
	inner,
	borders,
	center: [0, 0, 0],
	radius: 2,
	colored: false,
};
const sheets = new Map([['s', { width: 200, height: 100 }]]);
const island = Uint32Array.from([...islandOfFace.keys()].filter((face) => islandOfFace[face] === 0));
const corners = cornersOf(model);

test('moved by texels only what is chosen moves, by so many; nothing leaves the sheet', () => {
	const start = boxOf(model, corners, island, sheets);
	fc.assert(
		fc.property(fc.integer({ min: -300, max: 300 }), fc.integer({ min: -300, max: 300 }), (dx, dy) => {
			const moved = movedCorners(model, corners, island, [1, 0, dx, 0, 1, dy], sheets) as Float32Array;
			const chosen = new Set(island);
			for (let corner = 0; corner < mesh.indices.length; corner++)
				if (!chosen.has(Math.floor(corner / 3))) expect(moved[corner * 2]).toBe(corners[corner * 2]);
			const now = boxOf(model, moved, island, sheets);
			if (!start || !now) throw new Error('no box');
			expect(Math.min(now.x0, now.y0)).toBeGreaterThanOrEqual(-1e-4);
			expect(now.x1).toBeLessThanOrEqual(200.0001);
			expect(now.y1).toBeLessThanOrEqual(100.0001);
			// By whole texels, also where the rim of the sheet holds it back.
			for (const by of [now.x0 - start.x0, now.y0 - start.y0]) expect(Math.abs(by - Math.round(by))).toBeLessThan(1e-3);
			if (start.x0 + dx >= 0 && start.x1 + dx <= 200) expect(now.x0 - start.x0).toBeCloseTo(dx, 3);
		}),
		{ numRuns: 60 },
	);
});

test('what would be larger than its sheet, or lies on several, is not moved', () => {
	expect(movedCorners(model, corners, island, [9, 0, 0, 0, 9, 0], sheets)).toBeNull();
	const two = {
		...model,
		parts: [{ ...model.parts[0], sheet: 's', faces: 1 }],
		partOfFace: model.partOfFace.map((_, i) => i % 2),
	};
	expect(boxOf(two as ShownModel, corners, island, sheets)).toBeNull();
});

test('a press lands on what is chosen where that is shown, also after it moved', () => {
	const size = { width: 200, height: 100 };
	const at = boxOf(model, corners, island, sheets);
	if (!at) throw new Error('no box');
	const [x, y] = [(at.x0 + at.x1) / 2, (at.y0 + at.y1) / 2];
	expect(liesOn(model, island, 's', size, x + 0.1, y)).toBe(true);
	expect(liesOn(model, island, 's', size, at.x0 - 1, y)).toBe(false);
	expect(liesOn(model, island, 'other', size, x, y)).toBe(false);
	const moved = shownWith(model, movedCorners(model, corners, island, [1, 0, 60, 0, 1, 0], sheets) as Float32Array);
	expect(liesOn(moved, island, 's', size, x + 60.1, y)).toBe(true);
	expect(liesOn(moved, island, 's', size, x + 0.1, y)).toBe(false);
	// Every point stays where it is in space.
	for (let corner = 0; corner < mesh.indices.length; corner++)
		for (let k = 0; k < 3; k++)
			expect(moved.positions[(moved.indices[corner] as number) * 3 + k]).toBe(
				mesh.positions[(mesh.indices[corner] as number) * 3 + k],
			);
});

test('islands are lined up by whole texels, each as it is', () => {
	const faces = Uint32Array.from([...islandOfFace.keys()].filter((face) => (islandOfFace[face] as number) < 4));
	const all = boxOf(model, corners, faces, sheets);
	for (const [by] of alignments) {
		const moved = alignedCorners(model, faces, by, sheets);
		if (!moved || !all) throw new Error('not lined up');
		for (let each = 0; each < 4; each++) {
			const own = faces.filter((face) => islandOfFace[face] === each);
			const [before, after] = [boxOf(model, corners, own, sheets), boxOf(model, moved, own, sheets)];
			if (!before || !after) throw new Error('no box');
			const [dx, dy] = [after.x0 - before.x0, after.y0 - before.y0];
			expect(Math.abs(dx - Math.round(dx))).toBeLessThan(1e-3);
			expect(Math.abs(dy - Math.round(dy))).toBeLessThan(1e-3);
			expect(after.x1 - after.x0).toBeCloseTo(before.x1 - before.x0, 3);
			const off = {
				left: after.x0 - all.x0,
				right: after.x1 - all.x1,
				top: after.y0 - all.y0,
				bottom: after.y1 - all.y1,
				across: (after.y0 + after.y1 - all.y0 - all.y1) / 2,
				down: (after.x0 + after.x1 - all.x0 - all.x1) / 2,
			}[by];
			expect(Math.abs(off)).toBeLessThanOrEqual(0.51);
		}
	}
});
