import type { Proposing } from './useProposal.ts';

/** What is done at once with all marked edges. */
export interface JoiningAct {
	readonly joining: 'cut' | 'sew';
	readonly label: string;
	readonly hint: string;
}

export const joinings: readonly JoiningAct[] = [
	{
		joining: 'cut',
		label: 'Cut',
		hint: 'Cut islands at the marked edges that they go over, and lay the pieces flat',
	},
	{
		joining: 'sew',
		label: 'Sew',
		hint: 'Sew islands together at the marked edges where they meet, and lay them flat as one; those marks go',
	},
];

export const askedOf = ({ joining, label }: JoiningAct): Parameters<Proposing['ask']>[0] => ({
	way: { way: 'seams' },
	faces: null,
	joining,
	words: `${label} at the marked seams`,
});
