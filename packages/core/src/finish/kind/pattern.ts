import { one } from '../../shape/index.ts';
import { fillPictures, patternBlock, patternShape, type Spaced, type Tiled } from '../../wash/index.ts';
import { type FinishBase, type FinishKind, finishShape } from './kind.ts';

/** A picture laid again and again over the layer's shape. */
export interface PatternFinish extends FinishBase {
	readonly finish: 'pattern';
	readonly fill: Tiled | Spaced;
}

export const pattern: FinishKind<PatternFinish> = {
	finish: 'pattern',
	words: 'Pattern',
	shape: finishShape({ finish: one('pattern'), fill: patternShape }),
	usual: {
		finish: 'pattern',
		on: true,
		opacity: 0.5,
		mode: 'multiply',
		fill: { fill: 'picture', picture: 'straw', scale: 64, turn: 0, x: 0, y: 0, tint: null },
	},
	place: () => 'within',
	texels: ({ fill }) => ({
		reads: 'mask',
		reach: 0,
		pictures: fillPictures(fill),
		// Where the layer's mask hides all there is nothing to lie on.
		make: (rect, { hidden, picture }) => (hidden(rect) ? null : patternBlock(fill, rect, picture)),
	}),
};
