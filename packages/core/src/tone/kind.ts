import type { Block, Rect } from '../raster/index.ts';
import type { DialOf, Shape } from '../shape/index.ts';
import type { ToneMap } from './map.ts';

export interface AnyTone {
	readonly op: string;
}

interface KindBase<T extends AnyTone> {
	readonly op: T['op'];
	/** As it is called on the screen. */
	readonly words: string;
	readonly shape: Shape;
	/** As it is first added. */
	readonly usual: T;
	/** Its numbers, for a hand; what else it has is set by a field of its own on the screen. */
	readonly dials: readonly DialOf[];
}

/** A change of tones and colours that looks at each texel alone. */
export interface PointKind<T extends AnyTone> extends KindBase<T> {
	readonly looks: 'point';
	map(tone: T): ToneMap;
}

/** A change that looks at the texels around each: lengths are texels. */
export interface AreaKind<T extends AnyTone> extends KindBase<T> {
	readonly looks: 'area';
	/** Texels beside a region that it reads. */
	reach(tone: T): number;
	/** RGBA8 of a rectangle; `block` is what lies there, RGBA8 of the rectangle grown by `reach`. */
	block(tone: T, block: Block, rect: Rect): Uint8Array;
}

/** One change of tones, the same for adjust layers and for what is done once. */
export type ToneKind<T extends AnyTone> = PointKind<T> | AreaKind<T>;
