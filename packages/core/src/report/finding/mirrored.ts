import { count, type FindingKind, facesWhere, partNames } from '../kind.ts';

/** Islands that lie mirrored: lettering would read backwards. */
export const mirrored: FindingKind = {
	kind: 'mirrored',
	find(ground, measures) {
		const { islandOfFace, islands } = ground.topology;
		const sums = new Float64Array(islands);
		measures.texels.forEach((area, face) => {
			const island = islandOfFace[face] as number;
			sums[island] = (sums[island] as number) + area;
		});
		const found = sums.filter((sum) => sum > 0).length;
		if (!found) return [];
		const faces = facesWhere(measures.areas.length, (face) => (sums[islandOfFace[face] as number] as number) > 0);
		return [
			{
				kind: 'mirrored',
				words: `${count(found, 'island')} of ${partNames(ground, measures, faces)} ${found === 1 ? 'lies' : 'lie'} mirrored.`,
				todo: 'Pictures and lettering read backwards there; lettering put down on the model is set right by itself.',
				faces,
				grave: false,
			},
		];
	},
};
