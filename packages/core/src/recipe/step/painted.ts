import { one } from '../../shape/index.ts';
import { type SourceKind, sourceShape, toneField } from './kind.ts';

/** This mask as it is painted by hand. */
export interface Painted {
	readonly step: 'painted';
}

export const painted: SourceKind<Painted> = {
	step: 'painted',
	words: 'Painted by hand',
	takes: 'source',
	shape: sourceShape({ step: one('painted') }),
	usual: { step: 'painted' },
	dials: [],
	field: (_step, ground) => toneField(ground, ground.painted()),
};
