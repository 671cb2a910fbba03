import type { StackLayer } from '../../composite/index.ts';
import type { Slopes } from '../../light/index.ts';
import type { Block, Rect } from '../../raster/index.ts';
import type { Ground, Planes } from '../../recipe/index.ts';
import type { Shape } from '../../shape/index.ts';
import type { PaintPicture } from '../../stroke/index.ts';
import type { Surface, SurfaceId } from '../../surface/index.ts';
import type { LayerBase } from '../layerBase.ts';

export interface AnyLayer extends LayerBase {
	readonly kind: string;
}

/** What a layer's source is made of. */
export interface SourceAt {
	surface(id: SurfaceId): Surface | undefined;
	/** The layer's own texels where they are computed. */
	content(): Surface | undefined;
	stack(layers: readonly AnyLayer[]): StackLayer[];
}

/** What a layer's own texels are made from. */
export interface ContentFrom {
	picture(id: string): PaintPicture | undefined;
	/** How large the sheet is. */
	readonly sheet: { readonly width: number; readonly height: number };
	below(rect: Rect): Block;
	/** The slopes of what stands out below on a rectangle, in the planes' memory; null where it is level. */
	relief(planes: Planes, rect: Rect): Slopes | null;
	/** What lies under a rectangle; what is taken there lasts as long as `work`. */
	ground<T>(rect: Rect, work: (ground: Ground) => T): T;
}

/** A layer's own texels where they follow from the document. */
export interface Content {
	/** All that they depend on beside pictures and what lies below. */
	readonly says: unknown;
	/** Pictures of the artist's own or shipped ones that they are made with. */
	readonly pictures: readonly string[];
	/** Whether they are made of what lies below the layer, and how many texels beside a place. */
	readonly below: boolean;
	readonly reach: number;
	/**
	 * What stands at a place: on a model it keeps to the island there, and goes on over its seams to those that meet it.
	 * `bounds` are the whole texels that it reaches.
	 */
	readonly stands?: { readonly at: readonly [number, number]; bounds(): Rect };
	/** They show what stands out below the layer. */
	readonly relief?: boolean;
	/** They follow from the model that lies there, and from these of its bakes. */
	readonly model?: { readonly bakes: readonly string[] };
	/** RGBA8 of a rectangle, or null where it is empty. */
	make(rect: Rect, from: ContentFrom): Uint8Array | null;
}

/** What of a layer one step can set: as the history names it, and what is said of layers that have no such thing. */
export interface OwnProperty {
	readonly words: string;
	readonly without: string;
}

/** Said of strokes on a layer without pixels; `instead` is where they can go. */
export interface NoPaint {
	readonly code: 'no-pixels' | 'wash';
	readonly text: string;
	readonly instead: 'mask' | 'layer';
}

/** Where a place went, and how what stands there is turned (degrees clockwise), sized, and flipped from above to below. */
export interface Place {
	readonly x: number;
	readonly y: number;
	readonly turn: number;
	readonly scale: number;
	readonly flipped: boolean;
}
/** Null where nothing of the surface lies. */
export type PlaceMove = (x: number, y: number) => Place | null;

/** One kind of layer. Whoever works with layers reads this and knows none by name. */
export interface LayerKind<L extends AnyLayer> {
	readonly kind: L['kind'];
	/** What it is called to the artist. */
	readonly words: string;
	readonly shape: Shape;
	/** Properties that other kinds lack. */
	readonly own: Readonly<Record<string, OwnProperty>>;
	/** Has a shape that finishes can follow. */
	readonly finishes: boolean;
	source(layer: L, at: SourceAt): StackLayer['source'];
	content?(layer: L): Content | null;
	/** The one colour that it is, where it is plain. */
	plain?(layer: L): string | null;
	/** What it is called by what it holds, where the artist gave it no name; null where that says nothing yet. */
	called?(layer: L): string | null;
	/** Set by a fill in place of texels; null where it takes none so. */
	filled?(layer: L, color: string): Readonly<Record<string, unknown>> | null;
	/** The layer with what it says of places on the sheet moved along with the surface there. */
	moved?(layer: L, move: PlaceMove): L;
	/** Why strokes do not land on its pixels, and where they can go; null where they do. */
	noPaint(layer: L): NoPaint | null;
}
