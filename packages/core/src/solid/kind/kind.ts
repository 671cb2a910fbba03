import type { DialOf } from '../../shape/index.ts';
import type { UnwrapWay } from '../../unwrap/index.ts';
import type { Body } from '../solid.ts';

export interface SolidDoing {
	readonly solid: string;
}

/** A shape that a project can begin with. Whoever offers or makes it reads this and knows none by name. */
export interface SolidKind<S extends SolidDoing> {
	readonly solid: S['solid'];
	readonly words: string;
	readonly usual: S;
	readonly dials: readonly DialOf[];
	/** A line from the middle outwards and up, that a hand draws: its field. */
	readonly profile?: keyof S & string;
	body(solid: S): Body;
	/** How it is laid flat at first. */
	readonly way: UnwrapWay;
}
