import type { UnwrapKind } from './kind.ts';
import { layMarked } from './seams.ts';

/** Bands laid straight, however they bend on the model: their rows level, their rungs upright. */
export interface LaidStraight {
	readonly way: 'straight';
}

export const straight: UnwrapKind<LaidStraight> = {
	way: 'straight',
	words: 'Straight',
	hint: 'For planks, straps and rims: bands of faces are laid as straight as a ruler, however they bend. What is no band is laid with the least stretch.',
	usual: { way: 'straight' },
	dials: [],
	choices: [],
	lay: (_way, ground) => layMarked(ground, Number.POSITIVE_INFINITY),
};
