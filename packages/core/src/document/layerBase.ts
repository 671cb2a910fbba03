import type { BlendMode } from '../composite/index.ts';
import type { Finish } from '../finish/index.ts';
import type { Relief } from '../light/index.ts';
import type { Recipe } from '../recipe/index.ts';
import { bool, id, list, name, orNull, real, type Shape, share, shared, strict } from '../shape/index.ts';
import type { SurfaceId } from '../surface/index.ts';

export type Id = string;

export interface Mask {
	readonly surface: SurfaceId;
	/** Switched off, it stays but does nothing. */
	readonly on: boolean;
	/** Steps that compute it; what is painted by hand is then one of its sources. */
	readonly recipe?: Recipe | null;
}

/** What makes a layer a physical coat of paint. */
export interface Coat {
	/** How thick it lies, in shares of a whole scrape, 0.01..1. */
	readonly depth: number;
	/** How softly its rim breaks, 0 sharp .. 1. */
	readonly falloff: number;
}

/** What all layers have. One that is painted by hand has a `surface` besides, one that holds others has `layers`. */
export interface LayerBase {
	readonly id: Id;
	readonly name: string;
	/** The artist gave it no name: it is called by what it holds, as soon as it holds anything. */
	readonly unnamed?: boolean;
	readonly shown: boolean;
	/** 0..1 */
	readonly opacity: number;
	readonly mode: BlendMode;
	/** Shaped by the nearest unclipped layer below. */
	readonly clip: boolean;
	readonly locked: boolean;
	/** Painting keeps the layer's alpha. */
	readonly lockAlpha: boolean;
	readonly mask: Mask | null;
	/** Lowest first. */
	readonly finishes?: readonly Finish[];
	/** A coat that the Scrape tool cuts through. */
	readonly coat?: Coat | null;
	/** It stands out of the surface, or sinks into it: light that lies over it shows it so. */
	readonly relief?: Relief | null;
	/** On a pixel sheet: it may hold soft edges, and colours that no palette has. */
	readonly loose?: boolean;
}

export const maskShape: Shape = strict({ surface: id, on: bool, recipe: orNull(shared('recipe')) }, ['recipe']);

export const coatShape: Shape = strict({ depth: real(0.01, 1), falloff: share });

const properties = {
	id,
	name,
	unnamed: bool,
	shown: bool,
	opacity: share,
	mode: shared('mode'),
	clip: bool,
	locked: bool,
	lockAlpha: bool,
	mask: orNull(shared('mask')),
	finishes: list(shared('finish'), 24),
	coat: orNull(shared('coat')),
	relief: orNull(shared('relief')),
	loose: bool,
};

/** The shape of a layer with what its kind has besides. */
export const layerShape = (own: Readonly<Record<string, Shape>>, optional: readonly string[] = []): Shape =>
	strict({ ...properties, ...own }, ['unnamed', 'finishes', 'coat', 'relief', 'loose', ...optional]);

/** A layer's usual start. */
export const usualLayer = {
	shown: true,
	opacity: 1,
	mode: 'normal',
	clip: false,
	locked: false,
	lockAlpha: false,
	mask: null,
} as const;
