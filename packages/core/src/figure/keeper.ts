import type { Figure } from './figure.ts';

/** The figure that ships: a beekeeper in a suit with a brimmed hat and a veil. */
export const keeperFigure: Figure = {
	figure: 1,
	name: 'Beekeeper',
	sheet: [96, 64],
	boxes: [
		{ name: 'Head', size: [10, 9, 9], at: [0, 20, 0], place: [0, 0], joint: [0, 20, 0], on: 'Body' },
		{ name: 'Body', size: [9, 11, 5], at: [0, 9, 0], place: [38, 0], joint: [0, 9, 0] },
		{ name: 'Left arm', size: [4, 10, 4], at: [-6.5, 10, 0], place: [66, 0], joint: [-5, 19, 0], on: 'Body' },
		{ name: 'Right arm', size: [4, 10, 4], at: [6.5, 10, 0], place: [80, 16], joint: [5, 19, 0], on: 'Body' },
		{ name: 'Left leg', size: [4, 9, 5], at: [-2.5, 0, 0], place: [0, 18] },
		{ name: 'Right leg', size: [4, 9, 5], at: [2.5, 0, 0], place: [18, 18] },
		{ name: 'Veil', size: [10, 9, 9], at: [0, 20, 0], place: [36, 18], inflate: 0.6, on: 'Head' },
		{ name: 'Hat brim', size: [14, 1, 14], at: [0, 28, 0], place: [0, 36], on: 'Head' },
		{ name: 'Hat crown', size: [8, 3, 8], at: [0, 29, 0], place: [56, 36], on: 'Head' },
	],
	poses: [
		{
			name: 'Walking',
			turns: {},
			swing: {
				'Left leg': [32, 0, 0],
				'Right leg': [-32, 0, 0],
				'Left arm': [-26, 0, 0],
				'Right arm': [26, 0, 0],
				Body: [0, 4, 0],
				Head: [0, -4, 0],
			},
			beat: 1.1,
		},
		{
			name: 'Arms out',
			turns: { 'Left arm': [0, 0, -82], 'Right arm': [0, 0, 82] },
		},
		{
			name: 'Smoking a hive',
			turns: {
				Body: [10, 0, 0],
				Head: [14, 0, 0],
				'Left arm': [-58, 0, 8],
				'Right arm': [-72, 0, -10],
			},
			swing: { 'Right arm': [7, 0, 0], Head: [0, 6, 0] },
			beat: 1.6,
		},
		{
			name: 'Looking up',
			turns: { Head: [-30, 18, 0], 'Right arm': [-150, 0, 12] },
		},
	],
};
