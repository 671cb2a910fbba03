import { one, share } from '../../shape/index.ts';
import { fieldOf, type SourceKind, sourceShape, unitDial } from './kind.ts';

export interface Tone {
	readonly step: 'tone';
	readonly value: number;
}

export const tone: SourceKind<Tone> = {
	step: 'tone',
	words: 'One tone',
	takes: 'source',
	shape: sourceShape({ step: one('tone'), value: share }),
	usual: { step: 'tone', value: 0.5 },
	dials: [unitDial('value', 'Tone')],
	field: ({ value }, ground) => fieldOf(ground).fill(value),
};
