import { count, type FindingKind, facesWhere, partNames } from '../kind.ts';

/** Faces that have no place on a sheet: no UVs, or all of them on one line. */
export const bare: FindingKind = {
	kind: 'bare',
	find(ground, measures) {
		const faces = facesWhere(
			measures.areas.length,
			(face) => (measures.areas[face] as number) > 0 && measures.texels[face] === 0,
		);
		if (!faces.length) return [];
		return [
			{
				kind: 'bare',
				words: `${count(faces.length, 'face')} of ${partNames(ground, measures, faces)} ${faces.length === 1 ? 'has' : 'have'} no area on a sheet.`,
				todo: 'They take no paint. Unwrap them.',
				faces,
				grave: true,
			},
		];
	},
};
