import type { Hex } from '../color/index.ts';
import { type Camera, cameraShape, homeCamera, type Plane, placeShape, type Reach } from '../projection/index.ts';
import {
	above,
	among,
	bool,
	finite,
	hex,
	id,
	list,
	name,
	orNull,
	pictureId,
	real,
	type Shape,
	share,
	shared,
	signedShare,
	strict,
	whole,
} from '../shape/index.ts';
import { defaultTip, noJitter, type Rule, straightCurve, type Tip } from '../stroke/index.ts';
import type { Guard } from './guard.ts';
import type { Id } from './types.ts';

/** Where a sheet's view stands: the texel in its middle and screen px per texel. */
export interface SheetPlace {
	readonly x: number;
	readonly y: number;
	readonly zoom: number;
}

/** The stencil as it lies over the views: which, where on the screen, and how it works. */
export interface StencilDesk {
	/** Name or id; null while none is taken up. */
	readonly picture: string | null;
	/** Middle in shares of the view from its own middle (heights), and its height in heights of the view. */
	readonly x: number;
	readonly y: number;
	readonly scale: number;
	/** Width over height, beyond the picture's own. */
	readonly stretch: number;
	/** Degrees. */
	readonly turn: number;
	readonly tile: boolean;
	readonly invert: boolean;
	readonly soft: number;
	readonly opacity: number;
	readonly mode: 'through' | 'print';
	/** It lies over the view, or on the sheet's own texels as a pattern. */
	readonly space: 'view' | 'sheet';
	readonly shown: boolean;
}

export interface MirrorDesk {
	/** Over the model, across each axis at a place on it. */
	readonly x: boolean;
	readonly y: boolean;
	readonly z: boolean;
	readonly at: readonly [number, number, number];
	/** Over a plane drawn across a view of the model; null while none was drawn. */
	readonly slant: (Plane & { readonly on: boolean }) | null;
	/** Over the sheet's middle: left to right, top to bottom. */
	readonly sheetX: boolean;
	readonly sheetY: boolean;
}

export interface SavedView {
	readonly name: string;
	readonly camera: Camera;
}

const byId = (shape: Shape): Shape => ({ type: 'object', maxProperties: 64, additionalProperties: shape });
const numbers = list(whole(0, 1_000_000), 200_000);

export const deskShape: Shape = strict({
	sheet: orNull(id),
	layers: byId(id),
	camera: cameraShape,
	places: byId(strict({ x: finite, y: finite, zoom: above(0, 1000) })),
	front: hex,
	back: hex,
	recent: list(hex, 64),
	tip: shared('tip'),
	onMask: bool,
	maskFront: hex,
	maskBack: hex,
	amounts: byId(signedShare),
	stencil: strict({
		picture: orNull(pictureId),
		x: finite,
		y: finite,
		scale: above(0, 100),
		stretch: above(0, 100),
		turn: finite,
		tile: bool,
		invert: bool,
		soft: share,
		opacity: share,
		mode: among(['through', 'print']),
		space: among(['view', 'sheet']),
		shown: bool,
	}),
	stamp: strict({ repeat: whole(1, 200), way: among(['row', 'ring']), takes: bool }),
	mirror: strict({
		x: bool,
		y: bool,
		z: bool,
		at: placeShape,
		slant: orNull(strict({ on: bool, normal: list(real(-1, 1), 3, 3), at: real(-1e15, 1e15) })),
		sheetX: bool,
		sheetY: bool,
	}),
	guard: orNull(
		strict(
			{
				way: among(['only', 'not']),
				parts: numbers,
				islands: numbers,
				faces: numbers,
				tone: orNull(strict({ of: among(['bake', 'mask']), id, from: share, soft: share, way: among(['in', 'out']) })),
			},
			['tone'],
		),
	),
	reach: among(['seen', 'front', 'through']),
	fade: share,
	sampling: strict({ from: among(['all', 'layer']), size: whole(1, 101) }),
	pad: among(['oklch', 'hsv']),
	views: list(strict({ name, camera: cameraShape }), 40),
	references: list(id, 500),
});

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
	/** Strokes go on the active layer's mask, with pots of its own: white shows, black hides. */
	readonly onMask: boolean;
	readonly maskFront: Hex;
	readonly maskBack: Hex;
	/** How far each tone tool goes, -1..1, by its name. */
	readonly amounts: Readonly<Record<string, number>>;
	readonly stencil: StencilDesk;
	/** How stamps are set; `takes` wipes in their shape. */
	readonly stamp: { readonly repeat: number; readonly way: 'row' | 'ring'; readonly takes: boolean };
	readonly mirror: MirrorDesk;
	readonly guard: Guard | null;
	readonly reach: Reach;
	/** How much paint on the model fades where the surface turns away, 0..1. */
	readonly fade: number;
	readonly sampling: { readonly from: 'all' | 'layer'; readonly size: number };
	readonly pad: 'oklch' | 'hsv';
	readonly views: readonly SavedView[];
	/** Pictures of the library that are looked at in this project alone. */
	readonly references: readonly Id[];
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
	onMask: false,
	maskFront: '#ffffff',
	maskBack: '#000000',
	amounts: { contrast: 0.5, saturate: 0.5, hue: 0.1, lighten: 0.6, darken: 0.6 },
	stencil: {
		picture: null,
		x: 0,
		y: 0,
		scale: 0.5,
		stretch: 1,
		turn: 0,
		tile: true,
		invert: false,
		soft: 0,
		opacity: 1,
		mode: 'through',
		space: 'view',
		shown: true,
	},
	stamp: { repeat: 1, way: 'row', takes: false },
	mirror: { x: false, y: false, z: false, at: [0, 0, 0], slant: null, sheetX: false, sheetY: false },
	guard: null,
	reach: 'seen',
	fade: 0,
	sampling: { from: 'all', size: 1 },
	pad: 'oklch',
	views: [],
	references: [],
};

/** A desk as it was kept at any time, with what has come since: missing parts as usual, the first tips' dials as rules. */
export function currentDesk(kept: unknown): unknown {
	if (typeof kept !== 'object' || kept === null) return kept;
	const desk = { ...emptyDesk, ...kept };
	desk.mirror = { ...emptyDesk.mirror, ...desk.mirror };
	const old = desk.tip as Tip & { pressureSize?: number; pressureStrength?: number };
	if (old.pressureSize === undefined || old.pressureStrength === undefined) return desk;
	const { pressureSize, pressureStrength, ...tip } = old;
	const rule = (of: Rule['of'], amount: number): Rule => ({ by: 'pressure', of, amount, curve: straightCurve });
	return {
		...desk,
		tip: {
			...defaultTip,
			...tip,
			jitter: noJitter,
			rules: [rule('size', pressureSize), rule('strength', pressureStrength)],
		},
	};
}
