import { one } from '../../shape/index.ts';
import { type ShaperKind, shaperShape } from './kind.ts';

export interface Invert {
	readonly step: 'invert';
}

export const invert: ShaperKind<Invert> = {
	step: 'invert',
	words: 'Invert',
	takes: 'shaper',
	shape: shaperShape({ step: one('invert') }),
	usual: { step: 'invert' },
	dials: [],
	reach: () => 0,
	shaped(_step, field) {
		for (let i = 0; i < field.length; i++) field[i] = 1 - (field[i] as number);
		return field;
	},
};
