import type { Carried } from '../carry/index.ts';
import type { Asset, Id, Sheet } from '../document/index.ts';
import type { Layout } from '../layout/index.ts';
import type { Rect } from '../raster/index.ts';

/** What of a sheet is not its layers. */
export type SheetHead = Pick<Sheet, 'id' | 'name' | 'width' | 'height' | 'bleed' | 'base'> &
	Partial<Pick<Sheet, 'pixel'>>;

/** What of a model is not how it lies on its sheets: its file, and which sheet each of its parts is on. */
export interface ModelHead {
	readonly id: Id;
	readonly name: string;
	readonly asset: Asset;
	/** In the order of the mesh's parts. */
	readonly parts: readonly { readonly name: string; readonly sheet: Id }[];
}

/** Another way in which models lie on sheets. What is not named stays as it is. */
export interface Relaying {
	/** Layouts by the model; null goes back to the one of its file. */
	readonly layouts?: ReadonlyMap<Id, Layout | null>;
	/** The sheet of each part, by the model. What is painted on a part goes with it. */
	readonly parts?: ReadonlyMap<Id, readonly Id[]>;
	/**
	 * All models in their order: an id that is new is a new model, one that is left out goes away; one with another file is
	 * another version of itself, and what is painted on it goes along with its surface.
	 */
	readonly models?: readonly ModelHead[];
	/** Edges whose marks go, each by a corner that it begins at, by the model. */
	readonly unmarked?: ReadonlyMap<Id, readonly number[]>;
	/** All sheets in their order: an id that is new is a new sheet, one that is left out goes away with what is on it. */
	readonly sheets?: readonly SheetHead[];
}

/** Texels of a layer that had no surface to go with, and the rectangle of the sheet, as it was, that they lay in. */
export interface LostPaint {
	readonly layer: string;
	readonly texels: number;
	readonly at: Rect;
}

/** What became of the paint of a sheet. */
export interface CarriedSheet extends Carried {
	readonly sheet: Id;
	/** The same by the names of parts. */
	readonly parts: readonly ({ readonly name: string } & Readonly<Carried>)[];
	/** What was painted where no island was, and is not there any more. */
	readonly lost: readonly LostPaint[];
}
