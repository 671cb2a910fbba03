import { one, share, strict } from '../../shape/index.ts';
import type { PointKind } from '../kind.ts';

/** 0..1 of the colour taken away. */
export interface Desaturate {
	readonly op: 'desaturate';
	readonly amount: number;
}

export const desaturate: PointKind<Desaturate> = {
	op: 'desaturate',
	words: 'Desaturate',
	looks: 'point',
	shape: strict({ op: one('desaturate'), amount: share }),
	usual: { op: 'desaturate', amount: 1 },
	dials: [{ of: 'amount', label: 'Amount', least: 0, most: 1, usual: 1 }],
	map: ({ amount }) => ({ kind: 'cube', change: (l, a, b) => [l, a * (1 - amount), b * (1 - amount)] }),
};
