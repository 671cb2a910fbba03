import type { Figure } from './figure.ts';

/** The figure that ships: a beekeeper in a suit with a brimmed hat and a veil. */
export const keeperFigure: Figure = {
	figure: 1,
	name: 'Beekeeper',
	sheet: [96, 64],
	boxes: [
		{ name: 'Head', size: [10, 9, 9], at: [0, 20, 0], place: [0, 0] },
		{ name: 'Body', size: [9, 11, 5], at: [0, 9, 0], place: [38, 0] },
		{ name: 'Left arm', size: [4, 10, 4], at: [-6.5, 10, 0], place: [66, 0] },
		{ name: 'Right arm', size: [4, 10, 4], at: [6.5, 10, 0], place: [80, 16] },
		{ name: 'Left leg', size: [4, 9, 5], at: [-2.5, 0, 0], place: [0, 18] },
		{ name: 'Right leg', size: [4, 9, 5], at: [2.5, 0, 0], place: [18, 18] },
		{ name: 'Veil', size: [10, 9, 9], at: [0, 20, 0], place: [36, 18], inflate: 0.6 },
		{ name: 'Hat brim', size: [14, 1, 14], at: [0, 28, 0], place: [0, 36] },
		{ name: 'Hat crown', size: [8, 3, 8], at: [0, 29, 0], place: [56, 36] },
	],
};
