import type { Hex } from '@eppu/core/color';
import {
	type Desk,
	eachLayer,
	emptyDesk,
	type Id,
	type Layer,
	layerOf,
	type MirrorSpot,
	type Refusal,
	type Sheet,
	type Spot,
	sheetOf,
} from '@eppu/core/document';
import type { Tool } from '@eppu/core/stroke';
import { create } from 'zustand';
import type { Keeping, Outline, ShownModel } from './protocol.ts';

export type ToolName = Tool | 'fill' | 'sample' | 'stamp' | 'guard';

/** What a click of the guard tool takes in. */
export type GuardBy = 'islands' | 'parts' | 'faces';

export type DrawerName = 'history' | 'keys' | 'pen' | 'references';
export type ViewLayout = 'both' | 'model' | 'sheet';

/** What the screen shows of the open project; pixels are not here (see pictures.ts). */
export interface StudioState {
	readonly status: 'closed' | 'opening' | 'open' | 'failed' | 'elsewhere';
	readonly failure: { readonly text: string; readonly gone: boolean } | null;
	readonly outline: Outline | null;
	readonly models: readonly ShownModel[];
	readonly desk: Desk;
	readonly keeping: Keeping;
	readonly tool: ToolName;
	readonly layout: ViewLayout;
	readonly drawer: DrawerName | null;
	readonly guardBy: GuardBy;
	readonly spot: { readonly spot: Spot; readonly from: 'model' | 'sheet' } | null;
	/** Where the mirror images of the brush are on the model. */
	readonly mirrors: readonly MirrorSpot[];
	readonly refusal: { readonly refusal: Refusal; readonly x: number; readonly y: number } | null;
	readonly overlaysHidden: boolean;
	readonly show: { readonly seams: boolean; readonly wire: boolean; readonly lit: boolean; readonly template: boolean };
	readonly thumbnails: ReadonlyMap<string, string>;
	readonly asking: boolean;
	/** Layers chosen together with the active one. */
	readonly chosen: readonly Id[];
	/** Groups whose layers are not listed. */
	readonly folded: ReadonlySet<Id>;
	/** What is seen alone. */
	readonly alone: { readonly sheet: Id; readonly layer: Id; readonly on: 'layer' | 'mask' } | null;
}

export const closed: StudioState = {
	status: 'closed',
	failure: null,
	outline: null,
	models: [],
	desk: emptyDesk,
	keeping: { state: 'kept', at: 0 },
	tool: 'draw',
	layout: 'both',
	drawer: null,
	guardBy: 'islands',
	mirrors: [],
	spot: null,
	refusal: null,
	overlaysHidden: false,
	show: { seams: true, wire: false, lit: false, template: true },
	thumbnails: new Map(),
	asking: false,
	chosen: [],
	folded: new Set(),
	alone: null,
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
			const id = activeLayerId(state, sheet);
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
