import { one, whole, words } from '../../shape/index.ts';
import { fieldBy, type SourceKind, sourceShape } from './kind.ts';

/** One part of the model: 1 on it, 0 elsewhere. */
export interface Part {
	readonly step: 'part';
	/** Its number among the model's parts: what counts where none has its name. */
	readonly part: number;
	/** What it is called: a newer file may have it at another place. */
	readonly name?: string;
}

export const part: SourceKind<Part> = {
	step: 'part',
	words: 'A part of the model',
	takes: 'source',
	shape: sourceShape({ step: one('part'), part: whole(0, 9999), name: words(1, 255) }, ['name']),
	usual: { step: 'part', part: 0 },
	dials: [],
	names: true,
	field(step, ground) {
		const { surface } = ground;
		if (!surface) return null;
		const named = surface.partNames.flatMap((name, i) => (name === step.name ? [i] : []));
		// Where several are called the same its number tells them apart.
		const meant = named.length === 0 || named.includes(step.part) ? step.part : named[0];
		return fieldBy(ground, (i) => {
			const face = surface.face[i] as number;
			return face >= 0 && surface.partOf(face) === meant ? 1 : 0;
		});
	},
};
