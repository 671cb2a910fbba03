import { one, strict, whole } from '../../shape/index.ts';
import type { PointKind } from '../kind.ts';
import { channels } from '../map.ts';

/** Each channel in so many steps, 2..64. */
export interface Posterize {
	readonly op: 'posterize';
	readonly steps: number;
}

export const posterize: PointKind<Posterize> = {
	op: 'posterize',
	words: 'Posterize',
	looks: 'point',
	shape: strict({ op: one('posterize'), steps: whole(2, 64) }),
	usual: { op: 'posterize', steps: 6 },
	dials: [{ of: 'steps', label: 'Steps', least: 2, most: 64, usual: 6, whole: true }],
	map(op) {
		const steps = Math.max(2, Math.round(op.steps));
		return channels((v) => Math.min(steps - 1, Math.floor(v * steps)) / (steps - 1));
	},
};
