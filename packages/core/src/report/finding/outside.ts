import { count, type FindingKind, facesWhere, partNames } from '../kind.ts';

/** A layout may lie over its sheet's border by rounding. */
const SLACK = 1e-4;

/** Faces that reach over the border of their sheet. */
export const outside: FindingKind = {
	kind: 'outside',
	find(ground, measures) {
		const { uvs, indices } = ground.mesh;
		const out = (v: number): boolean => v < -SLACK || v > 1 + SLACK;
		const faces = facesWhere(measures.areas.length, (face) =>
			[0, 1, 2].some((k) => {
				const v = indices[face * 3 + k] as number;
				return out(uvs[v * 2] as number) || out(uvs[v * 2 + 1] as number);
			}),
		);
		if (!faces.length) return [];
		return [
			{
				kind: 'outside',
				words: `${count(faces.length, 'face')} of ${partNames(ground, measures, faces)} ${faces.length === 1 ? 'reaches' : 'reach'} over the border of the sheet.`,
				todo: 'What lies beyond takes no paint. Move or shrink those islands.',
				faces,
				grave: true,
			},
		];
	},
};
