import { curveAt } from '../../color/index.ts';
import { list, one, share, strict } from '../../shape/index.ts';
import type { PointKind } from '../kind.ts';
import { channels } from '../map.ts';

/** Heights over evenly spaced tones, for all channels and then for each. */
export interface Curves {
	readonly op: 'curves';
	readonly all: readonly number[];
	readonly red: readonly number[];
	readonly green: readonly number[];
	readonly blue: readonly number[];
}

const knots = list(share, 17, 2);
const straight = [0, 0.25, 0.5, 0.75, 1];

export const curves: PointKind<Curves> = {
	op: 'curves',
	words: 'Curves',
	looks: 'point',
	shape: strict({ op: one('curves'), all: knots, red: knots, green: knots, blue: knots }),
	usual: { op: 'curves', all: straight, red: straight, green: straight, blue: straight },
	dials: [],
	map: ({ all, red, green, blue }) =>
		channels((v, c) => curveAt([red, green, blue][c] as readonly number[], curveAt(all, v))),
};
