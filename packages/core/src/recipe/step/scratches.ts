import { latticeValue } from '../../raster/index.ts';
import { degrees, one, real, share } from '../../shape/index.ts';
import { along } from '../spread.ts';
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
		const { seed, dense, thick } = step;
		const k = 1 / Math.max(0.05, step.size);
		const { planes } = ground;
		return along(ground, step.space, only, (places, count, out) => {
			const turns = planes.take(6);
			// Three families of lines, each turned by chance.
			for (let n = 0; n < 3; n++) {
				const turn = ((step.turn + (latticeValue(n, 0, 0, seed) - 0.5) * 2 * step.spread) * Math.PI) / 180;
				planes.floats(turns, 6).set([Math.cos(turn), Math.sin(turn)], n * 2);
			}
			planes.run.scratched(...places, count, k, turns, seed, dense, thick, out);
		});
	},
};
