import { list, one, signedShare, strict } from '../../shape/index.ts';
import type { PointKind } from '../kind.ts';
import { clamp } from '../map.ts';

type Three = readonly [dark: number, middle: number, light: number];

/** Warmer (1) or cooler (-1), redder (1) or greener (-1), by tone. */
export interface Balance {
	readonly op: 'balance';
	readonly warmth: Three;
	readonly redness: Three;
}

const three = list(signedShare, 3, 3);
/** Full balance moves OKLab by this much. */
const SHIFT = 0.09;

/** Share of the dark, middle and light tones at a lightness; they add up to one. */
const regions = (l: number): Three => {
	const dark = clamp(1 - 2 * l) ** 2 * (3 - 2 * clamp(1 - 2 * l));
	const light = clamp(2 * l - 1) ** 2 * (3 - 2 * clamp(2 * l - 1));
	return [dark, 1 - dark - light, light];
};

export const balance: PointKind<Balance> = {
	op: 'balance',
	words: 'Balance',
	looks: 'point',
	shape: strict({ op: one('balance'), warmth: three, redness: three }),
	usual: { op: 'balance', warmth: [0, 0, 0], redness: [0, 0, 0] },
	dials: [],
	map: (op) => ({
		kind: 'cube',
		change: (l, a, b) => {
			const share = regions(l);
			const sum = (shifts: Three): number => share.reduce((all, w, i) => all + w * (shifts[i] as number), 0);
			return [l, a + SHIFT * sum(op.redness), b + SHIFT * sum(op.warmth)];
		},
	}),
};
