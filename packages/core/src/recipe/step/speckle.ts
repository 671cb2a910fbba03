import { one, share } from '../../shape/index.ts';
import { spread } from '../spread.ts';
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

export interface Speckle extends Chance {
	readonly step: 'speckle';
	readonly dense: number;
	readonly soft: number;
}

/** 32-bit numbers that the kernel wants for the dots around a cell. */
const SCRATCH = 27 * 5;

export const speckle: SourceKind<Speckle> = {
	step: 'speckle',
	words: 'Speckle',
	takes: 'source',
	shape: sourceShape({ ...chanceShape, step: one('speckle'), dense: share, soft: share }),
	usual: { step: 'speckle', dense: 0.5, soft: 0.3, ...usualChance, size: 3 },
	dials: [sizeDial, unitDial('dense', 'Dense'), unitDial('soft', 'Soft')],
	choices: [spaceChoice],
	dear: true,
	field({ space, size, seed, dense, soft }, ground, only) {
		const k = 1 / Math.max(0.05, size);
		const flat = !ground.surface || space === 'sheet' ? 1 : 0;
		const { planes } = ground;
		return spread(ground, space, only, (places, count, out) =>
			planes.run.speckle(...places, count, k, seed, dense, soft, flat, planes.take(SCRATCH), out),
		);
	},
};
