import { one, real, share, strict } from '../../shape/index.ts';
import type { PointKind } from '../kind.ts';
import { channels, clamp } from '../map.ts';

/** Tones from black to white (0..1) spread to outBlack..outWhite; gamma above 1 lightens the middle. */
export interface Levels {
	readonly op: 'levels';
	readonly black: number;
	readonly white: number;
	readonly gamma: number;
	readonly outBlack: number;
	readonly outWhite: number;
}

export const levels: PointKind<Levels> = {
	op: 'levels',
	words: 'Levels',
	looks: 'point',
	shape: strict({
		op: one('levels'),
		black: share,
		white: share,
		gamma: real(0.05, 20),
		outBlack: share,
		outWhite: share,
	}),
	usual: { op: 'levels', black: 0, white: 1, gamma: 1, outBlack: 0, outWhite: 1 },
	dials: [
		{ of: 'black', label: 'Black', least: 0, most: 1, usual: 0 },
		{ of: 'white', label: 'White', least: 0, most: 1, usual: 1 },
		{ of: 'gamma', label: 'Middle', least: 0.1, most: 10, usual: 1, ratio: true, percent: true },
		{ of: 'outBlack', label: 'Darkest', least: 0, most: 1, usual: 0 },
		{ of: 'outWhite', label: 'Lightest', least: 0, most: 1, usual: 1 },
	],
	map(op) {
		const range = Math.max(1 / 255, op.white - op.black);
		return channels(
			(v) =>
				op.outBlack + (op.outWhite - op.outBlack) * clamp((v - op.black) / range) ** (1 / Math.max(0.05, op.gamma)),
		);
	},
};
