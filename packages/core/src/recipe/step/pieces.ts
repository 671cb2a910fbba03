import { latticeValue } from '../../raster/index.ts';
import { among, one, seed, share } from '../../shape/index.ts';
import { fieldBy, type SourceKind, sourceShape, unitDial } from './kind.ts';

/** One tone of chance for each island, part or face. */
export interface Pieces {
	readonly step: 'pieces';
	readonly by: 'island' | 'part' | 'face';
	readonly low: number;
	readonly high: number;
	readonly seed: number;
}

export const pieces: SourceKind<Pieces> = {
	step: 'pieces',
	words: 'A tone for each piece',
	takes: 'source',
	shape: sourceShape({
		step: one('pieces'),
		by: among(['island', 'part', 'face']),
		low: share,
		high: share,
		seed,
	}),
	usual: { step: 'pieces', by: 'island', low: 0, high: 1, seed: 1 },
	dials: [unitDial('low', 'From'), unitDial('high', 'To')],
	choices: [
		{
			of: 'by',
			label: 'Pieces',
			options: [
				['island', 'Islands'],
				['part', 'Parts'],
				['face', 'Faces'],
			],
		},
	],
	field({ by, low, high, seed }, ground) {
		const { surface } = ground;
		if (!surface) return null;
		const of = { island: surface.islandOf, part: surface.partOf, face: (face: number) => face }[by];
		return fieldBy(ground, (i) => {
			const face = surface.face[i] as number;
			return face < 0 ? 0 : low + (high - low) * latticeValue(of(face), 11, by.length, seed);
		});
	},
};
