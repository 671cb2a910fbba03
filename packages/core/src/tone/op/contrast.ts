import { one, signedShare, strict } from '../../shape/index.ts';
import type { PointKind } from '../kind.ts';
import { channels } from '../map.ts';

/** -1..1 each. */
export interface Contrast {
	readonly op: 'contrast';
	readonly brightness: number;
	readonly contrast: number;
}

export const contrast: PointKind<Contrast> = {
	op: 'contrast',
	words: 'Brightness and contrast',
	looks: 'point',
	shape: strict({ op: one('contrast'), brightness: signedShare, contrast: signedShare }),
	usual: { op: 'contrast', brightness: 0, contrast: 0 },
	dials: [
		{ of: 'brightness', label: 'Brightness', least: -1, most: 1, usual: 0 },
		{ of: 'contrast', label: 'Contrast', least: -1, most: 1, usual: 0 },
	],
	map(op) {
		// Full contrast is a slope of four; none at all is grey.
		const slope = op.contrast > 0 ? 1 + 3 * op.contrast : 1 + op.contrast;
		return channels((v) => 0.5 + (v - 0.5) * slope + 0.5 * op.brightness);
	},
};
