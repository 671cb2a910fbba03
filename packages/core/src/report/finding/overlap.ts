import { triangleSpans } from '../../atlas/index.ts';
import { count, type FindingKind, facesWhere, partNames } from '../kind.ts';

/** Texels along the longer side of the raster on which it is looked for. */
const FINE = 1024;
/** Fewer shared texels than this are rounding. */
const LEAST = 2;

/** Faces that lie over each other on one sheet: paint on one shows on the other. */
export const overlap: FindingKind = {
	kind: 'overlap',
	find(ground, measures) {
		const { mesh, sheets, sheetOfPart, topology } = ground;
		const { uvs, indices } = mesh;
		const faces = measures.areas.length;
		const shared = new Uint32Array(faces);
		sheets.forEach(({ width, height }, number) => {
			const by = FINE / Math.max(width, height);
			const [w, h] = [Math.max(1, Math.round(width * by)), Math.max(1, Math.round(height * by))];
			const owner = new Uint32Array(w * h);
			for (let face = 0; face < faces; face++) {
				if (sheetOfPart[measures.partOfFace[face] as number] !== number) continue;
				const at = (k: number, axis: number): number =>
					(uvs[(indices[face * 3 + k] as number) * 2 + axis] as number) * (axis ? h : w);
				triangleSpans(at(0, 0), at(0, 1), at(1, 0), at(1, 1), at(2, 0), at(2, 1), w, h, (y, x0, x1) => {
					for (let i = y * w + x0; i < y * w + x1; i++) {
						const before = owner[i] as number;
						if (before) {
							shared[before - 1] = (shared[before - 1] as number) + 1;
							shared[face] = (shared[face] as number) + 1;
						}
						owner[i] = face + 1;
					}
				});
			}
		});
		const found = facesWhere(faces, (face) => (shared[face] as number) > LEAST);
		if (!found.length) return [];
		const islands = new Set([...found].map((face) => topology.islandOfFace[face])).size;
		return [
			{
				kind: 'overlap',
				words: `${count(found.length, 'face')} in ${count(islands, 'island')} of ${partNames(ground, measures, found)} lie over others.`,
				todo: 'Paint on one shows on the other. Where that is meant, leave it; else move those islands apart.',
				faces: found,
				grave: false,
			},
		];
	},
};
