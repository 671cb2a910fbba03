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

export interface Noise extends Chance {
	readonly step: 'noise';
	readonly contrast: number;
}

export const noise: SourceKind<Noise> = {
	step: 'noise',
	words: 'Noise',
	takes: 'source',
	shape: sourceShape({ ...chanceShape, step: one('noise'), contrast: share }),
	usual: { step: 'noise', contrast: 0.3, ...usualChance },
	dials: [sizeDial, unitDial('contrast', 'Contrast')],
	choices: [spaceChoice],
	dear: true,
	field({ space, size, seed, contrast }, ground, only) {
		const k = 1 / Math.max(0.05, size);
		return spread(ground, space, only, (places, count, out) =>
			ground.planes.run.clouds(...places, count, k, k, k, seed, 1, 1, slopeOf(contrast), out),
		);
	},
};
