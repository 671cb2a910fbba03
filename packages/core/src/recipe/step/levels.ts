import { one, real, share } from '../../shape/index.ts';
import { clamp } from '../spread.ts';
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
	shaped({ black, white, gamma }, field) {
		const range = white - black;
		const power = 1 / Math.max(0.05, gamma);
		for (let i = 0; i < field.length; i++) {
			const v = clamp(((field[i] as number) - black) / (Math.abs(range) < 0.004 ? 0.004 : range));
			field[i] = power === 1 ? v : v ** power;
		}
		return field;
	},
};
