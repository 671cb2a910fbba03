import { type Hex, oklabOfSrgb, rgbOfHex } from '../../color/index.ts';
import { hex, one, share, strict } from '../../shape/index.ts';
import type { PointKind } from '../kind.ts';

/** Every colour drawn towards one, its own lightness kept by half; 0..1. */
export interface Pull {
	readonly op: 'pull';
	readonly color: Hex;
	readonly amount: number;
}

export const pull: PointKind<Pull> = {
	op: 'pull',
	words: 'Pull towards a colour',
	looks: 'point',
	shape: strict({ op: one('pull'), color: hex, amount: share }),
	usual: { op: 'pull', color: '#b85a33', amount: 0.25 },
	dials: [{ of: 'amount', label: 'Amount', least: 0, most: 1, usual: 0.25 }],
	map({ color, amount: k }) {
		const [r, g, bl] = rgbOfHex(color);
		const [L, A, B] = oklabOfSrgb(r / 255, g / 255, bl / 255);
		return { kind: 'cube', change: (l, a, b) => [l + (L - l) * k * 0.5, a + (A - a) * k, b + (B - b) * k] };
	},
};
