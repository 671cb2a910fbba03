import type { Hex, Palette, ToneOp } from '../color/index.ts';
import type { BlendMode } from '../composite/index.ts';
import type { Finish } from '../finish/index.ts';
import type { Recipe } from '../recipe/index.ts';
import type { SurfaceId } from '../surface/index.ts';
import type { Text } from '../text/index.ts';
import type { WashFill } from '../wash/index.ts';

export type Id = string;

/** A file kept with the project, by the SHA-256 of its content. */
export interface Asset {
	readonly hash: string;
	readonly name: string;
}

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

export interface LayerBase {
	readonly id: Id;
	readonly name: string;
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
}

export interface PaintLayer extends LayerBase {
	readonly kind: 'paint';
	readonly surface: SurfaceId;
}

/** One colour, a gradient or a pattern everywhere, shaped only by its mask. */
export interface WashLayer extends LayerBase {
	readonly kind: 'wash';
	readonly color: Hex;
	/** What is laid instead of the plain colour. */
	readonly fill?: WashFill | null;
}

/** Lettering that stays editable. */
export interface TextLayer extends LayerBase {
	readonly kind: 'text';
	readonly text: Text;
}

/** Changes the tones of what lies below it, or of the layer that it is clipped to. */
export interface AdjustLayer extends LayerBase {
	readonly kind: 'adjust';
	readonly tone: ToneOp;
}

/** Layers that belong together, bottom first. */
export interface GroupLayer extends LayerBase {
	readonly kind: 'group';
	readonly layers: readonly Layer[];
	/** Blended on nothing and laid as one; else its layers blend with what lies below the group. */
	readonly isolated: boolean;
}

export type Layer = PaintLayer | WashLayer | TextLayer | AdjustLayer | GroupLayer;

/** One texture picture: its layers stand bottom first. */
export interface Sheet {
	readonly id: Id;
	readonly name: string;
	readonly width: number;
	readonly height: number;
	/** Texels that paint is carried on past an island's border. */
	readonly bleed: number;
	/** What lies under all layers; null is nothing. */
	readonly base: Hex | null;
	readonly layers: readonly Layer[];
	/** A picture laid over the sheet as a guide; never part of the texture. */
	readonly guide: Asset | null;
	/** The surface that says what is selected; nothing, and so all, where it is null. */
	readonly selection?: SurfaceId | null;
}

export interface ModelPart {
	readonly name: string;
	readonly sheet: Id;
	readonly shown: boolean;
}

export interface Model {
	readonly id: Id;
	readonly name: string;
	readonly asset: Asset;
	/** In the order of the mesh's parts. */
	readonly parts: readonly ModelPart[];
}

/** The whole of what is made: plain data; pixels by reference to surfaces. */
export interface Project {
	readonly schema: 1;
	readonly id: Id;
	readonly name: string;
	readonly models: readonly Model[];
	readonly sheets: readonly Sheet[];
	readonly palette: Palette;
}

/** Smallest and largest side of a sheet, texels. */
export const SHEET_SIDE = { least: 16, most: 8192 } as const;
