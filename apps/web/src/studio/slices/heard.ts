import type { Id } from '@eppu/core/document';
import type { BakeState, Refusal } from '@eppu/core/engine';
import type { MirrorSpot, Spot } from '@eppu/core/scene';
import type { Outline } from '../told.ts';

/** What the studio told of the open project. */
export interface Heard {
	readonly outline: Outline | null;
	readonly spot: { readonly spot: Spot; readonly from: 'model' | 'sheet' } | null;
	/** Where the mirror images of the brush are on the model. */
	readonly mirrors: readonly MirrorSpot[];
	readonly refusal: { readonly refusal: Refusal; readonly x: number; readonly y: number } | null;
	readonly thumbnails: ReadonlyMap<string, string>;
	/** Lines round what is selected, by sheet: closed ones in texels, and pairs of places on the model. */
	readonly selections: ReadonlyMap<Id, { readonly lines: readonly Int32Array[]; readonly model: Float32Array }>;
	/** What is being computed from the document: tiles left of all. */
	readonly computing: {
		readonly left: number;
		readonly all: number;
		readonly halted: boolean;
		readonly bakes: readonly BakeState[];
	} | null;
	/** When each bake was ready on all sheets of its model, as it was seen in this visit. */
	readonly bakedAt: ReadonlyMap<string, number>;
	/** Small pictures of the steps of the recipe that is open. */
	readonly steps: { readonly layer: Id; readonly side: number; readonly tones: readonly Uint8Array[] } | null;
	/** Edges of models that are marked to be cut, each by a corner that it begins at. */
	readonly marks: ReadonlyMap<Id, Uint32Array>;
	/** Models are being laid out otherwise: how much of the paint was taken along, 0..1. */
	readonly relaying: number | null;
	/** Layers that were asked for and are not in the outline yet. */
	readonly coming: ReadonlySet<Id>;
}

export const heard: Heard = {
	outline: null,
	spot: null,
	mirrors: [],
	refusal: null,
	thumbnails: new Map(),
	selections: new Map(),
	computing: null,
	bakedAt: new Map(),
	steps: null,
	marks: new Map(),
	relaying: null,
	coming: new Set(),
};
