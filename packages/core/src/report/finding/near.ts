import { count, type FindingKind, facesWhere, partNames } from '../kind.ts';

/** Texels that a distance may be off by on the raster that it is measured on. */
const ROUNDING = 1;

/** Islands that lie so near to another that less than half of their bleed fits between. */
export const near: FindingKind = {
	kind: 'near',
	find(ground, measures) {
		const { topology, sheets, sheetOfPart } = ground;
		const wanted = (face: number): number =>
			(sheets[sheetOfPart[measures.partOfFace[face] as number] as number]?.bleed ?? 0) - ROUNDING;
		const found = facesWhere(measures.areas.length, (face) => (measures.gap[face] as number) < wanted(face));
		if (!found.length) return [];
		const islands = new Set([...found].map((face) => topology.islandOfFace[face])).size;
		const least = Math.round([...found].reduce((min, face) => Math.min(min, measures.gap[face] as number), Infinity));
		return [
			{
				kind: 'near',
				words: `${count(islands, 'island')} of ${partNames(ground, measures, found)} ${islands === 1 ? 'lies' : 'lie'} nearer to another than their bleed: ${count(least, 'texel')} at the least.`,
				todo: 'Seen from afar their paint mixes at the rims. Arrange them with a margin of twice the bleed, or set less bleed.',
				faces: found,
				grave: false,
			},
		];
	},
};
