import type { Hex } from '@eppu/core/color';
import { eachLayer, type Id, isStrict, type Layer, layerOf, type Sheet, sheetOf } from '@eppu/core/document';
import type { Cells } from '@eppu/core/wash';
import { create } from 'zustand';
import { type Habits, habits } from './slices/habits.ts';
import { type Heard, heard } from './slices/heard.ts';
import { type Screen, screen } from './slices/screen.ts';
import { type Session, session } from './slices/session.ts';
import type { ShownModel } from './told.ts';

export type { Grading, Pixeling, Selecting, Shaping, ViewLayout } from './slices/habits.ts';
export type { GuardBy, Moving, MovingOn } from './slices/screen.ts';

/** What the screen shows of the open project; pixels are not here (see pictures.ts). */
export interface StudioState extends Session, Heard, Screen, Habits {}

/** As it is with no project open and no habit told. */
export const closed: StudioState = { ...session, ...heard, ...screen, ...habits };

export const useStudio = create<StudioState>(() => closed);

export const activeSheet = (state: StudioState): Sheet | undefined => {
	const sheets = state.outline?.project.sheets;
	return sheets && (sheets.find((sheet) => sheet.id === state.desk.sheet) ?? sheets[0]);
};

/** The model that is shown: the one that lies on the active sheet. */
export const modelShown = (state: StudioState): ShownModel | undefined => {
	const sheet = activeSheet(state)?.id;
	const lying = state.models.filter(({ parts }) => parts.some((part) => part.sheet === sheet));
	return lying.find(({ id }) => id === state.modelPicked) ?? lying[0] ?? state.models[0];
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

/** Whether the active sheet is seen as an item in the hand: a pixel sheet on which no model lies. */
export const heldShown = (state: StudioState): boolean => {
	const sheet = activeSheet(state);
	return sheet?.pixel === true && !state.models.some(({ parts }) => parts.some((part) => part.sheet === sheet.id));
};

/** Whether there is anything to see beside the sheet. */
export const twoViews = (state: StudioState): boolean => state.models.length > 0 || heldShown(state);

/** The cells of the active sheet where it is a colour grid. */
export const cellsShown = (state: StudioState): Cells | null => {
	const sheet = activeSheet(state);
	for (const layer of eachLayer(sheet?.layers ?? []))
		if (layer.kind === 'wash' && layer.fill?.fill === 'cells') return layer.fill;
	return null;
};

/** The pixel sheets of the project, as one word. */
export const pixelSheets = (state: StudioState): string =>
	(state.outline?.project.sheets ?? []).flatMap(({ id, pixel }) => (pixel ? [id] : [])).join(' ');

/** Whether whole texels are drawn: the active layer of a pixel sheet holds nothing else. */
export const drawsTexels = (state: StudioState): boolean => {
	const [sheet, layer] = [activeSheet(state), activeLayer(state)];
	return Boolean(sheet && (layer ? isStrict(sheet, layer) : sheet.pixel));
};

/** Whether strokes go on the active layer's mask. */
export const paintsMask = (state: StudioState): boolean => state.desk.onMask && Boolean(activeLayer(state)?.mask);

/** The pots under the hand: those of masks while one is painted. */
export const pots = (state: StudioState): { readonly front: Hex; readonly back: Hex } =>
	paintsMask(state)
		? { front: state.desk.maskFront, back: state.desk.maskBack }
		: { front: state.desk.front, back: state.desk.back };
