/** Islands, seams and edges against the plain reading of their definition, on soups of triangles that share corners. */
import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { type LaidMesh, topologyOf } from '../src/mesh/index.ts';

/** A soup on few places and few spots of the sheet: edges with one, two and more sides, mirrored and folded ones. */
const soup = fc
	.array(fc.tuple(fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 }), fc.integer({ min: 0, max: 4 })), {
		minLength: 1,
		maxLength: 14,
	})
	.chain((faces) =>
		fc.array(fc.integer({ min: 0, max: 1 }), { minLength: faces.length * 3, maxLength: faces.length * 3 }).map(
			(shifts): LaidMesh => ({
				// Every corner is a vertex of its own: what is equal is to be found.
				positions: Float32Array.from(faces.flat().flatMap((p) => [p % 2, Math.floor(p / 2), p === 4 ? 1 : 0])),
				uvs: Float32Array.from(faces.flat().flatMap((p, i) => [p * 0.1 + (shifts[i] as number) * 0.5, (p * p) / 16])),
				normals: null,
				indices: Uint32Array.from(faces.flat(), (_, i) => i),
				parts: [{ name: 'Soup', firstFace: 0, faces: faces.length }],
			}),
		),
	);

const at = (values: Float32Array, size: number, i: number): string =>
	Array.from(values.subarray(i * size, i * size + size), (v) => v.toFixed(4)).join();

test('faces are one island where they share an edge on the sheet; all other sides of edges are cuts', () => {
	fc.assert(
		fc.property(soup, (mesh) => {
			const { islandOfFace, islands, seams, inner, borders } = topologyOf(mesh);
			const faces = mesh.indices.length / 3;
			const corners = Array.from({ length: faces * 3 }, (_, i) => i);
			const next = (corner: number): number => (corner % 3 === 2 ? corner - 2 : corner + 1);
			const inSpace = (corner: number): string =>
				[corner, next(corner)]
					.map((i) => at(mesh.positions, 3, i))
					.sort()
					.join(' ');
			const onSheet = (corner: number): string =>
				[corner, next(corner)]
					.map((i) => `${at(mesh.positions, 3, i)};${at(mesh.uvs, 2, i)}`)
					.sort()
					.join(' ');
			const sharing = corners.map((corner) => corners.filter((each) => onSheet(each) === onSheet(corner)));
			// Each edge of the sheet once, and every side that is alone.
			expect([...borders].sort((a, b) => a - b)).toEqual(corners.filter((corner) => sharing[corner]?.length === 1));
			const shared = corners.filter((corner) => (sharing[corner]?.length ?? 0) > 1);
			expect([...inner].map(onSheet).sort()).toEqual([...new Set(shared.map(onSheet))].sort());
			// Flooding from face to face finds the same islands, numbered by their first face.
			const flooded = new Array<number>(faces).fill(-1);
			let found = 0;
			for (let face = 0; face < faces; face++) {
				if ((flooded[face] as number) >= 0) continue;
				const todo = [face];
				for (let each = todo.pop(); each !== undefined; each = todo.pop()) {
					if ((flooded[each] as number) >= 0) continue;
					flooded[each] = found;
					for (let k = 0; k < 3; k++) for (const other of sharing[each * 3 + k] ?? []) todo.push(Math.floor(other / 3));
				}
				found++;
			}
			expect([...islandOfFace]).toEqual(flooded);
			expect(islands).toBe(found);
			// Every alone side is in one seam, with a partner on the same edge of the model or with none.
			const told = seams.flatMap(({ one, other }) =>
				[one, ...(other ? [other] : [])].map((s) => s.face * 3 + s.corner),
			);
			expect(told.sort((a, b) => a - b)).toEqual([...borders].sort((a, b) => a - b));
			for (const { one, other } of seams)
				if (other) expect(inSpace(other.face * 3 + other.corner)).toBe(inSpace(one.face * 3 + one.corner));
			// No edge of the model keeps two sides without a partner.
			const lone = seams.filter(({ other }) => !other).map(({ one }) => inSpace(one.face * 3 + one.corner));
			expect(new Set(lone).size).toBe(lone.length);
		}),
		{ numRuns: process.env.LONG ? 20000 : 300 },
	);
});
