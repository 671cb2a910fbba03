import { latticeValue, noiseAt } from '../../raster/index.ts';
import { degrees, one, real, share } from '../../shape/index.ts';
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

export interface Scratches extends Chance {
	readonly step: 'scratches';
	readonly dense: number;
	readonly thick: number;
	readonly turn: number;
	readonly spread: number;
}

export const scratches: SourceKind<Scratches> = {
	step: 'scratches',
	words: 'Scratches',
	takes: 'source',
	shape: sourceShape({
		...chanceShape,
		step: one('scratches'),
		dense: share,
		thick: share,
		turn: degrees,
		spread: real(0, 180),
	}),
	usual: { step: 'scratches', dense: 0.4, thick: 0.5, turn: 0, spread: 40, ...usualChance, size: 16 },
	dials: [
		sizeDial,
		unitDial('dense', 'Dense'),
		unitDial('thick', 'Thick'),
		{ of: 'spread', label: 'Spread', least: 1, most: 180, unit: '°' },
		{ of: 'turn', label: 'Turn', least: -180, most: 180, unit: '°' },
	],
	choices: [spaceChoice],
	dear: true,
	field(step, ground, only) {
		const { seed } = step;
		const k = 1 / Math.max(0.05, step.size);
		return along(ground, step.space, only, (u, v, w) => {
			let best = 0;
			// Three families of lines, each in cells that chance fills and turns.
			for (let n = 0; n < 3; n++) {
				const turn = ((step.turn + (latticeValue(n, 0, 0, seed) - 0.5) * 2 * step.spread) * Math.PI) / 180;
				const [c, s] = [Math.cos(turn), Math.sin(turn)];
				const p = (u * c + v * s) * k;
				const q = (-u * s + v * c) * k * 4 + 0.6 * noiseAt(p * 0.7, n * 9.1, w * 0.02, seed + 31);
				const row = Math.floor(q);
				const start = Math.floor(p + latticeValue(row, n, 1, seed) * 7);
				const cell = latticeValue(start, row, n, seed + 7);
				if (cell > step.dense) continue;
				const inCell = p + latticeValue(row, n, 1, seed) * 7 - start;
				const ends = smooth(0, 0.25, inCell) * smooth(1, 0.6, inCell);
				const thick = 0.16 * step.thick * (0.4 + cell / Math.max(0.01, step.dense)) * ends;
				best = Math.max(best, ends * (1 - smooth(thick * 0.5, thick + 0.02, Math.abs(q - row - 0.5))));
			}
			return best;
		});
	},
};
