import type { Carried } from '../carry/index.ts';
import type { Id, Sheet } from '../document/index.ts';
import type { Layout } from '../layout/index.ts';

/** What of a sheet is not its layers. */
export type SheetHead = Pick<Sheet, 'id' | 'name' | 'width' | 'height' | 'bleed' | 'base'>;

/** Another way in which models lie on sheets. What is not named stays as it is. */
export interface Relaying {
	/** Layouts by the model; null goes back to the one of its file. */
	readonly layouts?: ReadonlyMap<Id, Layout | null>;
	/** The sheet of each part, by the model. What is painted on a part goes with it. */
	readonly parts?: ReadonlyMap<Id, readonly Id[]>;
	/** All sheets in their order: an id that is new is a new sheet, one that is left out goes away with what is on it. */
	readonly sheets?: readonly SheetHead[];
}

/** What became of the paint of a sheet. */
export interface CarriedSheet extends Carried {
	readonly sheet: Id;
	/** Texels that were painted where no island was, and are not there any more: by the layer's name. */
	readonly lost: readonly (readonly [layer: string, texels: number])[];
}
