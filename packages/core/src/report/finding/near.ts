import { count, type FindingKind, facesWhere, partNames } from '../kind.ts';

/** Islands that lie nearer to another than both their bleeds need. */
export const near: FindingKind = {
	kind: 'near',
	find(ground, measures) {
		const { topology, sheets, sheetOfPart } = ground;
		const wanted = (face: number): number =>
			2 * (sheets[sheetOfPart[measures.partOfFace[face] as number] as number]?.bleed ?? 0);
		const found = facesWhere(measures.areas.length, (face) => (measures.gap[face] as number) < wanted(face));
		if (!found.length) return [];
		const islands = new Set([...found].map((face) => topology.islandOfFace[face])).size;
		const least = Math.round([...found].reduce((min, face) => Math.min(min, measures.gap[face] as number), Infinity));
		return [
			{
				kind: 'near',
				words: `${count(islands, 'island')} of ${partNames(ground, measures, found)} ${islands === 1 ? 'lies' : 'lie'} nearer to another than twice the bleed: ${count(least, 'texel')} at the least.`,
				todo: 'Seen from afar their paint mixes at the rims. Arrange them with a margin of twice the bleed, or set less bleed.',
				faces: found,
				grave: false,
			},
		];
	},
};
