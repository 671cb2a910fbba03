import { one, share } from '../../shape/index.ts';
import { slopeOf, spread } from '../spread.ts';
import {
	type Chance,
	chanceShape,
	type SourceKind,
	sizeDial,
	sourceShape,
	spaceChoice,
	unitDial,
	usualChance,
} from './kind.ts';

export interface Clouds extends Chance {
	readonly step: 'clouds';
	readonly contrast: number;
	readonly rough: number;
}

export const clouds: SourceKind<Clouds> = {
	step: 'clouds',
	words: 'Clouds',
	takes: 'source',
	shape: sourceShape({ ...chanceShape, step: one('clouds'), contrast: share, rough: share }),
	usual: { step: 'clouds', contrast: 0.3, rough: 0.5, ...usualChance, size: 20 },
	dials: [sizeDial, unitDial('contrast', 'Contrast'), unitDial('rough', 'Rough')],
	choices: [spaceChoice],
	dear: true,
	field({ space, size, seed, contrast, rough }, ground, only) {
		const k = 1 / Math.max(0.05, size);
		return spread(ground, space, only, (places, count, out) =>
			ground.planes.run.clouds(...places, count, k, k, k, seed, 5, 0.3 + 0.5 * rough, slopeOf(contrast), out),
		);
	},
};
