import { one, real, share } from '../../shape/index.ts';
import { along } from '../spread.ts';
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

export interface Drips extends Chance {
	readonly step: 'drips';
	readonly dense: number;
	readonly length: number;
}

export const drips: SourceKind<Drips> = {
	step: 'drips',
	words: 'Drips',
	takes: 'source',
	shape: sourceShape({ ...chanceShape, step: one('drips'), dense: share, length: real(0.1, 20) }),
	usual: { step: 'drips', dense: 0.5, length: 3, ...usualChance, size: 5 },
	dials: [sizeDial, unitDial('dense', 'Dense'), { of: 'length', label: 'Length', least: 1, most: 20 }],
	choices: [spaceChoice],
	dear: true,
	field({ space, size, seed, dense, length }, ground, only) {
		const k = 1 / Math.max(0.05, size);
		const fall = 1 / Math.max(0.1, length);
		return along(ground, space, only, (places, count, out) =>
			ground.planes.run.dripped(...places, count, k, fall, seed, dense, out),
		);
	},
};
