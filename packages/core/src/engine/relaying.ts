import type { Carried } from '../carry/index.ts';
import type { Id, Model, Sheet } from '../document/index.ts';
import type { Layout } from '../layout/index.ts';

/** Another way in which models lie on sheets. What is not named stays as it is. */
export interface Relaying {
	/** Layouts by the model; null goes back to the one of its file. */
	readonly layouts?: ReadonlyMap<Id, Layout | null>;
	/** All models, their parts on other sheets. */
	readonly models?: readonly Model[];
	/** All sheets as they are to be; a layer that bears a surface of a sheet of now is carried from there. */
	readonly sheets?: readonly Sheet[];
}

/** What became of the paint of a sheet. */
export interface CarriedSheet extends Carried {
	readonly sheet: Id;
	/** Texels that were painted where no island was, and are not there any more: by the layer's name. */
	readonly lost: readonly (readonly [layer: string, texels: number])[];
}
