import type { Hex, Palette } from '../color/index.ts';
import type { Bake, KeptFile } from '../light/index.ts';
import type { EntryNumber, Recolor } from '../pixel/index.ts';
import type { SurfaceId } from '../surface/index.ts';
import type { GroupOf } from './layer/group.ts';
import type { LeafLayer } from './layer/index.ts';
import type { Id } from './layerBase.ts';

export type { Coat, Id, LayerBase, Mask } from './layerBase.ts';

export type Asset = KeptFile;

export interface GroupLayer extends GroupOf<Layer> {}

export type Layer = LeafLayer | GroupLayer;

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
	/** A pixel sheet: every texel is there or not there, and shown as a square; layers hold colours of the palette. */
	readonly pixel?: boolean;
	/** Its file in the project's bundle: written back there. */
	readonly path?: string;
}

export interface ModelPart {
	readonly name: string;
	readonly sheet: Id;
	readonly shown: boolean;
}

/** Numbers beside the document, as the texels of a surface: so they are kept, undone and copied as pixels are. */
export interface Numbers {
	readonly surface: SurfaceId;
	readonly bytes: number;
}

/** An island by one of its faces: it is the same island however it lies. */
export interface IslandName {
	readonly face: number;
	readonly name: string;
}

export interface Model {
	readonly id: Id;
	readonly name: string;
	readonly asset: Asset;
	/** In the order of the mesh's parts. */
	readonly parts: readonly ModelPart[];
	/** How it lies on its sheets; as its file says where there is none. */
	readonly layout?: Numbers | null;
	/** Edges at which it is to be cut, a byte a corner; none where it is not there. */
	readonly seams?: Numbers | null;
	/** Pictures of its shape that are kept on each of its sheets. */
	readonly bakes?: readonly Bake[];
	/** What islands are called. */
	readonly islands?: readonly IslandName[];
}

/** The whole of what is made: plain data; pixels by reference to surfaces. */
export interface Project {
	readonly schema: 1;
	readonly id: Id;
	readonly name: string;
	readonly models: readonly Model[];
	readonly sheets: readonly Sheet[];
	readonly palette: Palette;
	/** The numbers of the palette's entries, that texels point at; by their places from 1 where it is not there. */
	readonly entries?: readonly EntryNumber[];
	/** The set of textures that its sheets come from and go back to: a ZIP. */
	readonly bundle?: Asset;
	/** Colours that change in all textures of the bundle, one change after the other: those that are sheets have them already. */
	readonly recolors?: readonly Recolor[];
}

/** More models than these are not taken into one project. */
export const MOST_MODELS = 16;

/** More sheets than these are not taken into one project. */
export const MOST_SHEETS = 256;

/** Smallest and largest side of a sheet, texels. */
export const SHEET_SIDE = { least: 8, most: 8192 } as const;
