import { one, share } from '../../shape/index.ts';
import { type SourceKind, sourceShape, unitDial } from './kind.ts';

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
	field({ value }, { planes, width, height }) {
		const field = planes.take(width * height);
		planes.run.fillField(field, width * height, value);
		return field;
	},
};
