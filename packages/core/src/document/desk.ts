import type { Hex } from '../color/index.ts';
import { defaultTip, type Tip } from '../stroke/index.ts';
import { type Camera, homeCamera } from '../target/index.ts';
import type { Id } from './project.ts';

/** Where a sheet's view stands: the texel in its middle and screen px per texel. */
export interface SheetPlace {
	readonly x: number;
	readonly y: number;
	readonly zoom: number;
}

/** How the work lies on the table: kept with the project, but no part of what is made and not undone. */
export interface Desk {
	readonly sheet: Id | null;
	/** The active layer of each sheet. */
	readonly layers: Readonly<Record<Id, Id>>;
	readonly camera: Camera;
	readonly places: Readonly<Record<Id, SheetPlace>>;
	readonly front: Hex;
	readonly back: Hex;
	readonly recent: readonly Hex[];
	readonly tip: Tip;
}

export const emptyDesk: Desk = {
	sheet: null,
	layers: {},
	camera: homeCamera,
	places: {},
	front: '#b85a33',
	back: '#2b2d30',
	recent: [],
	tip: defaultTip,
};
