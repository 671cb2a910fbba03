import { degrees, one, real } from '../../shape/index.ts';
import { along } from '../spread.ts';
import { type Chance, chanceShape, type SourceKind, sizeDial, sourceShape, spaceChoice, usualChance } from './kind.ts';

/** 32-bit numbers that the kernel wants for the strokes over a cell. */
const SCRATCH = 9 * 5;

/** Broken up as if laid with single strokes of a brush. */
export interface Strokes extends Chance {
	readonly step: 'strokes';
	readonly turn: number;
	readonly length: number;
}

export const strokes: SourceKind<Strokes> = {
	step: 'strokes',
	words: 'Brush strokes',
	takes: 'source',
	shape: sourceShape({ ...chanceShape, step: one('strokes'), turn: degrees, length: real(1, 20) }),
	usual: { step: 'strokes', turn: 0, length: 3, ...usualChance, size: 5 },
	dials: [
		sizeDial,
		{ of: 'length', label: 'Length', least: 1, most: 20 },
		{ of: 'turn', label: 'Turn', least: -180, most: 180, unit: '°' },
	],
	choices: [spaceChoice],
	dear: true,
	field(step, ground, only) {
		const k = 1 / Math.max(0.05, step.size);
		const turn = (step.turn * Math.PI) / 180;
		const long = Math.max(1, step.length);
		const { planes } = ground;
		return along(ground, step.space, only, (places, count, out) =>
			planes.run.brushed(
				...places,
				count,
				k,
				Math.cos(turn),
				Math.sin(turn),
				long,
				step.seed,
				planes.take(SCRATCH),
				out,
			),
		);
	},
};
