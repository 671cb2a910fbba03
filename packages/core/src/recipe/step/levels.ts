import { one, real, share } from '../../shape/index.ts';
import { type ShaperKind, shaperShape, unitDial } from './kind.ts';

export interface Levels {
	readonly step: 'levels';
	readonly black: number;
	readonly white: number;
	readonly gamma: number;
}

export const levels: ShaperKind<Levels> = {
	step: 'levels',
	words: 'Levels',
	takes: 'shaper',
	shape: shaperShape({ step: one('levels'), black: share, white: share, gamma: real(0.05, 20) }),
	usual: { step: 'levels', black: 0.3, white: 0.7, gamma: 1 },
	dials: [
		unitDial('black', 'Black'),
		unitDial('white', 'White'),
		{ of: 'gamma', label: 'Middle', least: 0.1, most: 10, ratio: true },
	],
	reach: () => 0,
	work({ black, white, gamma }, field, { planes, width, height }) {
		const range = white - black;
		const over = 1 / (Math.abs(range) < 0.004 ? 0.004 : range);
		planes.run.levelField(field, width * height, black, over, 1 / Math.max(0.05, gamma));
	},
};
