import type { Edit } from '../edit/index.ts';
import type { Packed, PixelColors } from '../pixel/index.ts';
import type { Rect } from '../raster/index.ts';
import type { Picture } from '../surface/index.ts';

/** What a check looks at: a pixel sheet as it is seen, and what it is to go with. */
export interface Checked {
	readonly picture: Picture;
	/** The palette's colours and ramps. */
	readonly palette: PixelColors;
	/** Colours of the other items of its set; null where it stands alone. */
	readonly set: ReadonlySet<Packed> | null;
}

/** One result of a check, with its place and, where one step mends it, that step on the layer. */
export interface Finding {
	readonly text: string;
	readonly place: Rect | null;
	readonly mend: { readonly label: string; readonly edit: Edit } | null;
}

/** From where on something is a finding. */
export interface Threshold {
	readonly label: string;
	readonly least: number;
	readonly most: number;
	readonly usual: number;
	readonly percent?: boolean;
}

/** One check. Whoever checks reads this and knows none by name. */
export interface Check {
	readonly name: string;
	readonly label: string;
	readonly threshold?: Threshold;
	find(checked: Checked, threshold: number): readonly Finding[];
}
