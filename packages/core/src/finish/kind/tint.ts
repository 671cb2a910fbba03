import type { Hex } from '../../color/index.ts';
import { hex, one } from '../../shape/index.ts';
import { type FinishBase, type FinishKind, finishShape } from './kind.ts';

/** One colour over the layer's shape. */
export interface TintFinish extends FinishBase {
	readonly finish: 'tint';
	readonly color: Hex;
}

export const tint: FinishKind<TintFinish> = {
	finish: 'tint',
	words: 'Tint',
	shape: finishShape({ finish: one('tint'), color: hex }),
	usual: { finish: 'tint', on: true, opacity: 0.5, mode: 'normal', color: '#b85a33' },
	place: () => 'within',
	plain: ({ color }) => color,
};
