import { count, type FindingKind, facesWhere, partNames } from '../kind.ts';

/** Faces without area in space. */
export const flat: FindingKind = {
	kind: 'flat',
	find(ground, measures) {
		const all = measures.areas.reduce((sum, area) => sum + area, 0);
		const faces = facesWhere(measures.areas.length, (face) => (measures.areas[face] as number) <= all * 1e-12);
		if (!faces.length) return [];
		return [
			{
				kind: 'flat',
				words: `${count(faces.length, 'face')} of ${partNames(ground, measures, faces)} ${faces.length === 1 ? 'has' : 'have'} no area.`,
				todo: 'They are never seen. Merge their corners in your modelling program, or leave them.',
				faces,
				grave: false,
			},
		];
	},
};
