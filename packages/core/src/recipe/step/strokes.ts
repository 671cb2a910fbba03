import { latticeValue, noiseAt } from '../../raster/index.ts';
import { degrees, one, real } from '../../shape/index.ts';
import { along, clamp } from '../spread.ts';
import { type Chance, chanceShape, type SourceKind, sizeDial, sourceShape, spaceChoice, usualChance } from './kind.ts';

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
		const { seed } = step;
		const k = 1 / Math.max(0.05, step.size);
		const turn = (step.turn * Math.PI) / 180;
		const [c, s] = [Math.cos(turn), Math.sin(turn)];
		const long = Math.max(1, step.length);
		return along(ground, step.space, only, (u, v, w) => {
			let [top, tone] = [-1, 0];
			const [p, q] = [((u * c + v * s) * k) / long, (-u * s + v * c) * k];
			const [ip, iq] = [Math.floor(p), Math.floor(q)];
			for (let dq = -1; dq <= 1; dq++)
				for (let dp = -1; dp <= 1; dp++) {
					const [a, b] = [ip + dp, iq + dq];
					const order = latticeValue(a, b, 0, seed);
					if (order < top) continue;
					const x = p - a - 0.5 - 0.8 * (latticeValue(a, b, 1, seed) - 0.5);
					const y = q - b - 0.5 - 0.8 * (latticeValue(a, b, 2, seed) - 0.5);
					if (Math.abs(x) > 0.78 || Math.abs(y) > 0.62) continue;
					// Bristles fray the ends.
					const fray = 0.3 * noiseAt(q * 7, a * 3.7, w * 0.02, seed + 5);
					if (Math.abs(x) > 0.78 - fray) continue;
					top = order;
					tone = 0.15 + 0.85 * latticeValue(a, b, 3, seed) - 0.25 * noiseAt(p * 1.5, q * 9, w * 0.02, seed + 9);
				}
			return clamp(tone);
		});
	},
};
