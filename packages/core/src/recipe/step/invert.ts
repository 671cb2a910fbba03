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
	work: (_step, field, { planes, width, height }) => planes.run.levelField(field, width * height, 1, -1, 1),
};
