import { markAutomatic } from '../automatic.ts';
import type { UnwrapKind } from './kind.ts';
import { layMarked } from './seams.ts';

/** Cut where it costs least; the marked seams are kept. */
export interface Automatic {
	readonly way: 'automatic';
	/** 0 few seams .. 1 little stretch. */
	readonly less: number;
}

export const automatic: UnwrapKind<Automatic> = {
	way: 'automatic',
	words: 'Automatic',
	hint: 'Finds its own seams: fewer of them, or less stretch. Marked seams stay.',
	usual: { way: 'automatic', less: 0.5 },
	dials: [
		{
			of: 'less',
			label: 'Seams',
			least: 0,
			most: 1,
			usual: 0.5,
			percent: true,
			hint: 'To the left fewer seams, to the right less stretch',
		},
	],
	choices: [],
	lay({ less }, ground) {
		const { joints, marks, faces, tell } = ground;
		markAutomatic(joints, marks, faces, less, (share) => tell(share * 0.8));
		return layMarked({ ...ground, tell: (share) => tell(0.8 + share * 0.2) });
	},
};
