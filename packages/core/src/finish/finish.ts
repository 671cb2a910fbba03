import type { Hex } from '../color/index.ts';
import type { BlendMode } from '../composite/index.ts';
import type { Spaced, Tiled } from '../wash/index.ts';

/** A line of single stitches. Lengths are texels. */
export interface Stitch {
	readonly color: Hex;
	/** It follows the layer's shape, the border of these islands, or closed lines (x, y, x, y … in texels). */
	readonly along: 'shape' | readonly number[] | { readonly lines: readonly (readonly number[])[] };
	/** How far inside the border it runs. */
	readonly inset: number;
	readonly dash: number;
	readonly gap: number;
	/** Thickness of the thread. */
	readonly thick: number;
	/** How far each stitch leans, degrees. */
	readonly twist: number;
	/** 0 flat .. 1 round and shaded, with the hole it sinks into. */
	readonly shade: number;
}

export interface Outline {
	readonly side: 'out' | 'in' | 'middle';
	readonly width: number;
	readonly color: Hex;
	/** Whole texels instead of a smooth edge. */
	readonly hard: boolean;
}

interface FinishBase {
	readonly id: string;
	readonly on: boolean;
	readonly opacity: number;
	readonly mode: BlendMode;
}

/** A change of a layer's look that follows its shape and can be changed at any time. */
export type Finish = FinishBase &
	(
		| ({ readonly finish: 'outline' } & Outline)
		| { readonly finish: 'tint'; readonly color: Hex }
		| { readonly finish: 'pattern'; readonly fill: Tiled | Spaced }
		| ({ readonly finish: 'stitch' } & Stitch)
	);

/** Where a finish lies: below the layer, on it within its shape, or over it. */
export const finishPlace = (finish: Finish): 'below' | 'within' | 'over' => {
	if (finish.finish === 'outline') return finish.side === 'out' ? 'below' : finish.side === 'in' ? 'within' : 'over';
	return finish.finish === 'stitch' ? 'over' : 'within';
};

const usual: { readonly [K in Finish['finish']]: Omit<Finish & { readonly finish: K }, 'id'> } = {
	outline: {
		finish: 'outline',
		on: true,
		opacity: 1,
		mode: 'normal',
		side: 'out',
		width: 4,
		color: '#2b2d30',
		hard: false,
	},
	tint: { finish: 'tint', on: true, opacity: 0.5, mode: 'normal', color: '#b85a33' },
	pattern: {
		finish: 'pattern',
		on: true,
		opacity: 0.5,
		mode: 'multiply',
		fill: { fill: 'picture', picture: 'straw', scale: 64, turn: 0, x: 0, y: 0, tint: null },
	},
	stitch: {
		finish: 'stitch',
		on: true,
		opacity: 1,
		mode: 'normal',
		color: '#e6d3a3',
		along: 'shape',
		inset: 6,
		dash: 11,
		gap: 6,
		thick: 4,
		twist: 12,
		shade: 0.7,
	},
};

/** A finish as it is first added; `id` is the caller's. */
export const newFinish = (finish: Finish['finish'], id: string): Finish => ({ ...usual[finish], id }) as Finish;
