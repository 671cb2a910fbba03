import type { Hex } from '../../color/index.ts';
import type { BlendMode } from '../../composite/index.ts';
import type { Block, Rect } from '../../raster/index.ts';
import { bool, id, type Shape, share, shared, strict } from '../../shape/index.ts';
import type { PaintPicture } from '../../stroke/index.ts';

export interface FinishBase {
	readonly id: string;
	readonly on: boolean;
	readonly opacity: number;
	readonly mode: BlendMode;
}

export interface AnyFinish extends FinishBase {
	readonly finish: string;
}

/** What a finish is made of: the layer that it follows, without its finishes. */
export interface Followed {
	/** A8 of a rectangle. */
	shape(rect: Rect): Block;
	/** A8 of all that the layer's shape covers. */
	wholeShape(): Block;
	/** A8 of an island of the model, without its bleed; null where it is not there. */
	island(island: number): Block | null;
	/** The layer's mask hides all of a rectangle. */
	hidden(rect: Rect): boolean;
	picture(id: string): PaintPicture | undefined;
	/** The part of a rectangle that lies on the sheet. */
	onSheet(rect: Rect): Rect;
}

/** A finish's texels, computed. */
export interface FinishTexels {
	/** What of the layer they depend on: its picture, only its mask, or nothing of it. */
	readonly reads: 'shape' | 'mask' | 'nothing';
	/** Texels beside a place that count for it; Infinity where all do. */
	readonly reach: number;
	readonly pictures?: readonly string[];
	/** RGBA8 of a rectangle, or null where it is empty. */
	make(rect: Rect, of: Followed): Uint8Array | null;
	/** Forgets what it remembered of the layer. */
	reset?(): void;
}

/** One kind of finish: a change of a layer's look that follows its shape. Whoever lays finishes knows none by name. */
export interface FinishKind<F extends AnyFinish> {
	readonly finish: F['finish'];
	/** As it is called on the screen. */
	readonly words: string;
	readonly shape: Shape;
	/** As it is first added, without its id. */
	readonly usual: Omit<F, 'id'>;
	/** Where it lies: below the layer, on it within its shape, or over it. */
	place(finish: F): 'below' | 'within' | 'over';
	/** The one colour that it lays, where it computes nothing. */
	plain?(finish: F): Hex;
	texels?(finish: F): FinishTexels;
}

export const finishShape = (own: Readonly<Record<string, Shape>>): Shape =>
	strict({ id, on: bool, opacity: share, mode: shared('mode'), ...own });
