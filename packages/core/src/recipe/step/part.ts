import { one, whole } from '../../shape/index.ts';
import { fieldBy, type SourceKind, sourceShape } from './kind.ts';

/** One part of the model: 1 on it, 0 elsewhere. */
export interface Part {
	readonly step: 'part';
	/** Its number among the model's parts. */
	readonly part: number;
}

export const part: SourceKind<Part> = {
	step: 'part',
	words: 'A part of the model',
	takes: 'source',
	shape: sourceShape({ step: one('part'), part: whole(0, 9999) }),
	usual: { step: 'part', part: 0 },
	dials: [],
	field(step, ground) {
		const { surface } = ground;
		if (!surface) return null;
		return fieldBy(ground, (i) => {
			const face = surface.face[i] as number;
			return face >= 0 && surface.partOf(face) === step.part ? 1 : 0;
		});
	},
};
