import type { Rect } from '../raster/index.ts';
import type { Recipe } from '../recipe/index.ts';
import type { SurfaceId, TexelFormat } from '../surface/index.ts';

/** About the same in a small part of the time. */
export interface Draft {
	/** Tiles a side that are made at once: of coarse cells one tile has so few that those around it would cost more. */
	readonly tiles: number;
	/** The texels of some of a rectangle's tiles, in their order; null of those that are empty. */
	make(rect: Rect, tiles: readonly Rect[]): (Uint8Array | null)[];
}

/** A surface that is computed from the document and other surfaces, any rectangle of it at any time. */
export interface Derived {
	readonly id: SurfaceId;
	readonly format: TexelFormat;
	/** Says all that it depends on beside its inputs' texels. */
	readonly key: string;
	readonly inputs: readonly SurfaceId[];
	/** Texels of the inputs beside a place that count for it; Infinity where all do. */
	readonly reach: number;
	/** Tiles of the inputs beyond reach that a rectangle reads: over seams. */
	far?(rect: Rect): Iterable<number>;
	/** The texels of a rectangle within the sheet, or null where it is empty: whoever asked has them, and may give them back. */
	make(rect: Rect): Uint8Array | null;
	/** Where computing is dear, what is shown until `make` has been asked. */
	readonly draft?: Draft;
	/** It takes so long that all that does not read it is computed before, and that few tiles are drafted too. */
	readonly late?: boolean;
	/** It is as quick as its draft: that is made only where what it reads is there in a draft. */
	readonly follows?: boolean;
	/** Forgets what it remembered of its inputs. */
	reset?(): void;
	/** The surface that stands for it until it is computed: else there is nothing. */
	readonly meanwhile?: SurfaceId;
	/** Of a mask: its steps, and what else its tones depend on. */
	readonly recipe?: { readonly steps: Recipe; readonly says: string };
}
