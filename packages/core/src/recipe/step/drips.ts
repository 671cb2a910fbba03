import { latticeValue, noiseAt } from '../../raster/index.ts';
import { one, real, share } from '../../shape/index.ts';
import { along, smooth } from '../spread.ts';
import {
	type Chance,
	chanceShape,
	type SourceKind,
	sizeDial,
	sourceShape,
	spaceChoice,
	unitDial,
	usualChance,
} from './kind.ts';

export interface Drips extends Chance {
	readonly step: 'drips';
	readonly dense: number;
	readonly length: number;
}

export const drips: SourceKind<Drips> = {
	step: 'drips',
	words: 'Drips',
	takes: 'source',
	shape: sourceShape({ ...chanceShape, step: one('drips'), dense: share, length: real(0.1, 20) }),
	usual: { step: 'drips', dense: 0.5, length: 3, ...usualChance, size: 5 },
	dials: [sizeDial, unitDial('dense', 'Dense'), { of: 'length', label: 'Length', least: 1, most: 20 }],
	choices: [spaceChoice],
	dear: true,
	field({ space, size, seed, dense, length }, ground, only) {
		const k = 1 / Math.max(0.05, size);
		const fall = 1 / Math.max(0.1, length);
		return along(ground, space, only, (u, v, w) => {
			let best = 0;
			const p = u * k + 0.35 * (noiseAt(v * k * 0.35, u * k * 0.5, w * 0.02, seed + 17) - 0.5);
			const column = Math.floor(p);
			for (let c = column - 1; c <= column + 1; c++) {
				const depth = v * fall * k * 0.25 + latticeValue(c, 5, 0, seed) * 9;
				const run = Math.floor(depth);
				if (latticeValue(c, run, 1, seed) > dense) continue;
				const t = depth - run;
				const long = 0.35 + 0.6 * latticeValue(c, run, 2, seed);
				if (t > long) continue;
				const middle = c + 0.3 + 0.4 * latticeValue(c, run, 3, seed);
				// Thin as it runs, with a drop at its end.
				const s = t / long;
				const thick = 0.1 + 0.1 * (1 - s) + 0.14 * Math.exp(-(((s - 0.9) / 0.1) ** 2));
				best = Math.max(
					best,
					(1 - smooth(thick * 0.6, thick, Math.abs(p - middle))) * smooth(0, 0.06, t) * (0.55 + 0.45 * s),
				);
			}
			return best;
		});
	},
};
