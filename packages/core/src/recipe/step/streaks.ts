import { among, one, real, share } from '../../shape/index.ts';
import { slopeOf, spread } from '../spread.ts';
import {
	type Axis,
	axisChoice,
	axisNumber,
	type Chance,
	chanceShape,
	type SourceKind,
	sizeDial,
	sourceShape,
	spaceChoice,
	unitDial,
	usualChance,
} from './kind.ts';

export interface Streaks extends Chance {
	readonly step: 'streaks';
	readonly axis: Axis;
	readonly stretch: number;
	readonly contrast: number;
}

export const streaks: SourceKind<Streaks> = {
	step: 'streaks',
	words: 'Streaks',
	takes: 'source',
	shape: sourceShape({
		...chanceShape,
		step: one('streaks'),
		axis: among(['x', 'y', 'z']),
		stretch: real(1, 100),
		contrast: share,
	}),
	usual: { step: 'streaks', axis: 'y', stretch: 8, contrast: 0.4, ...usualChance, size: 6 },
	dials: [sizeDial, unitDial('contrast', 'Contrast'), { of: 'stretch', label: 'Stretch', least: 1, most: 40 }],
	choices: [axisChoice, spaceChoice],
	dear: true,
	field(step, ground, only) {
		const scale = [0, 1, 2].map(() => 1 / Math.max(0.05, step.size)) as [number, number, number];
		scale[axisNumber[step.axis]] /= Math.max(1, step.stretch);
		return spread(ground, step.space, only, (places, count, out) =>
			ground.planes.run.clouds(...places, count, ...scale, step.seed, 4, 0.6, slopeOf(step.contrast), out),
		);
	},
};
