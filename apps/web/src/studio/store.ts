import type { Hex } from '@eppu/core/color';
import {
	type Desk,
	eachLayer,
	emptyDesk,
	type Id,
	type Layer,
	layerOf,
	type Sheet,
	sheetOf,
} from '@eppu/core/document';
import type { Refusal } from '@eppu/core/engine';
import type { Rect } from '@eppu/core/raster';
import type { MirrorSpot, Spot } from '@eppu/core/scene';
import type { Joining } from '@eppu/core/select';
import { create } from 'zustand';
import type { Keeping, ModelSeen, Outline, ShownModel } from './protocol.ts';

/** How the selection tool works. */
export interface Selecting {
	readonly way:
		| 'rectangle'
		| 'ellipse'
		| 'polygon'
		| 'freehand'
		| 'cling'
		| 'similar'
		| 'tones'
		| 'island'
		| 'part'
		| 'face';
	readonly joining: Joining;
	/** Corners of rectangles, texels. */
	readonly radius: number;
	/** Shapes are set so many times in a row. */
	readonly repeat: number;
	/** 0..255 */
	readonly reach: number;
	readonly together: boolean;
	readonly ofLayer: boolean;
	/** Tones from .. to, 0..1, and how softly they end. */
	readonly low: number;
	readonly high: number;
	readonly soft: number;
	/** Texels that grow, shrink, soften and border go by. */
	readonly by: number;
}

/** How shapes are drawn. */
export interface Shaping {
	readonly kind: 'rectangle' | 'ellipse' | 'polygon' | 'line';
	readonly outline: boolean;
	readonly thick: number;
	readonly radius: number;
	readonly repeat: number;
	readonly way: 'row' | 'ring';
}

export interface Grading {
	readonly way: 'linear' | 'round' | 'angle';
	readonly fade: boolean;
	/** Between the pots, or along the palette's ramp from front to back through its colours. */
	readonly colors: 'pots' | 'palette';
}

/** What a click of the guard tool takes in. */
export type GuardBy = 'islands' | 'parts' | 'faces';

/** How something is moved from where it was: about the middle of its box. */
export interface Moving {
	readonly sheet: Id;
	readonly layer: Id;
	/** The view that it is moved in; null where it is moved on the sheet, and all is texels. */
	readonly seen: ModelSeen | null;
	readonly box: Rect;
	readonly x: number;
	readonly y: number;
	readonly scaleX: number;
	readonly scaleY: number;
	/** Degrees. */
	readonly turn: number;
	readonly skew: number;
	readonly gesture: string;
}

export type MovingOn = 'sheet' | 'model';

export type ViewLayout = 'both' | 'model' | 'sheet';

/** What the screen shows of the open project; pixels are not here (see pictures.ts). */
export interface StudioState {
	readonly status: 'closed' | 'opening' | 'open' | 'failed' | 'elsewhere';
	readonly failure: { readonly text: string; readonly why: 'gone' | 'away' | 'broken' } | null;
	/** The open project goes on under this id: the address has to follow. */
	readonly movedTo: Id | null;
	readonly outline: Outline | null;
	readonly models: readonly ShownModel[];
	readonly desk: Desk;
	readonly keeping: Keeping;
	/** The name of the tool in the hand (tools/list.ts). */
	readonly tool: string;
	readonly layout: ViewLayout;
	/** The name of the drawer that is open (rail/list.ts). */
	readonly drawer: string | null;
	/** Drawers that the artist put beside the views, or over them, and how wide they are, px. */
	readonly rail: { readonly beside: Readonly<Record<string, boolean>>; readonly width: number };
	readonly guardBy: GuardBy;
	readonly spot: { readonly spot: Spot; readonly from: 'model' | 'sheet' } | null;
	/** Where the mirror images of the brush are on the model. */
	readonly mirrors: readonly MirrorSpot[];
	/** The next drag on the model draws a mirror plane. */
	readonly slanting: boolean;
	readonly refusal: { readonly refusal: Refusal; readonly x: number; readonly y: number } | null;
	readonly overlaysHidden: boolean;
	readonly show: { readonly seams: boolean; readonly wire: boolean; readonly lit: boolean; readonly template: boolean };
	readonly thumbnails: ReadonlyMap<string, string>;
	readonly largeThumbnails: boolean;
	readonly asking: boolean;
	/** A layer that was just added: its row takes the focus when it is there. */
	readonly newLayer: Id | null;
	/** Layers that were asked for and are not in the outline yet. */
	readonly coming: ReadonlySet<Id>;
	/** Layers chosen together with the active one. */
	readonly chosen: readonly Id[];
	/** Groups whose layers are not listed. */
	readonly folded: ReadonlySet<Id>;
	/** Lines round what is selected, by sheet: closed ones in texels, and pairs of places on the model. */
	readonly selections: ReadonlyMap<Id, { readonly lines: readonly Int32Array[]; readonly model: Float32Array }>;
	readonly selecting: Selecting;
	readonly shaping: Shaping;
	readonly grading: Grading;
	/** What is being moved on the sheet and in the view of the model: its box before, and where it goes. */
	readonly moves: Readonly<Record<MovingOn, Moving | null>>;
	/** Where it was moved last: what the bay's figures are of. */
	readonly movingOn: MovingOn;
	/** Moving is smooth, or by nearest texels. */
	readonly smooth: boolean;
	/** What is being computed from the document: tiles left of all. */
	readonly computing: { readonly left: number; readonly all: number; readonly halted: boolean } | null;
	/** Only the outline of a selection is moved, not what is in it. */
	readonly outlineOnly: boolean;
	/** How the fill tool goes: an island, or joined texels that differ by so much at the most. */
	readonly filling: { readonly by: 'island' | 'part' | 'region'; readonly reach: number };
	/** Small pictures of the steps of the recipe that is open. */
	readonly steps: { readonly layer: Id; readonly side: number; readonly tones: readonly Uint8Array[] } | null;
	/** How many of a sheet's layers are seen in the build-up; null where all are. */
	readonly builtUp: { readonly sheet: Id; readonly count: number } | null;
	/** What is seen alone. */
	readonly alone: { readonly sheet: Id; readonly layer: Id; readonly on: 'layer' | 'mask' } | null;
}

export const closed: StudioState = {
	status: 'closed',
	failure: null,
	movedTo: null,
	outline: null,
	models: [],
	desk: emptyDesk,
	keeping: { state: 'kept', at: 0 },
	tool: 'draw',
	layout: 'both',
	drawer: null,
	rail: { beside: {}, width: 300 },
	guardBy: 'islands',
	mirrors: [],
	slanting: false,
	spot: null,
	refusal: null,
	overlaysHidden: false,
	show: { seams: true, wire: false, lit: false, template: true },
	thumbnails: new Map(),
	largeThumbnails: false,
	asking: false,
	newLayer: null,
	coming: new Set(),
	chosen: [],
	folded: new Set(),
	selections: new Map(),
	selecting: {
		way: 'rectangle',
		joining: 'replace',
		radius: 0,
		repeat: 1,
		reach: 24,
		together: true,
		ofLayer: false,
		low: 0.5,
		high: 1,
		soft: 0.1,
		by: 4,
	},
	shaping: { kind: 'rectangle', outline: false, thick: 6, radius: 0, repeat: 1, way: 'row' },
	grading: { way: 'linear', fade: false, colors: 'pots' },
	moves: { sheet: null, model: null },
	movingOn: 'sheet',
	computing: null,
	outlineOnly: false,
	filling: { by: 'island', reach: 24 },
	smooth: true,
	steps: null,
	alone: null,
	builtUp: null,
};

export const useStudio = create<StudioState>(() => closed);

export const activeSheet = (state: StudioState): Sheet | undefined => {
	const sheets = state.outline?.project.sheets;
	return sheets && (sheets.find((sheet) => sheet.id === state.desk.sheet) ?? sheets[0]);
};

/** The active layer of a sheet: as the desk says, or the topmost that can be painted on. */
export const activeLayerId = (state: StudioState, sheet: Sheet | undefined): Id | undefined => {
	if (!sheet) return undefined;
	const kept = layerOf(sheet, state.desk.layers[sheet.id]);
	return (kept ?? [...eachLayer(sheet.layers)].reverse().find((layer) => layer.kind === 'paint'))?.id;
};

export const activeLayer = (state: StudioState): Layer | undefined => {
	const sheet = activeSheet(state);
	return layerOf(sheet, activeLayerId(state, sheet));
};

/** The active layer of every sheet, as strokes want it. */
export const activeLayers = (state: StudioState): Record<Id, Id> =>
	Object.fromEntries(
		(state.outline?.project.sheets ?? []).flatMap((sheet) => {
			// One that was asked for a moment ago is the active one already: what is done now comes after it.
			const kept = state.desk.layers[sheet.id];
			const id = kept && state.coming.has(kept) ? kept : activeLayerId(state, sheet);
			return id ? [[sheet.id, id]] : [];
		}),
	);

export const sheetIn = (state: StudioState, id: Id): Sheet | undefined =>
	state.outline ? sheetOf(state.outline.project, id) : undefined;

/** Whether strokes go on the active layer's mask. */
export const paintsMask = (state: StudioState): boolean => state.desk.onMask && Boolean(activeLayer(state)?.mask);

/** The pots under the hand: those of masks while one is painted. */
export const pots = (state: StudioState): { readonly front: Hex; readonly back: Hex } =>
	paintsMask(state)
		? { front: state.desk.maskFront, back: state.desk.maskBack }
		: { front: state.desk.front, back: state.desk.back };
