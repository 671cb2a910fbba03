/** What the interface, the studio worker and the keeper say to each other: one union each way. */
import type { Hex } from '@eppu/core/color';
import type {
	Command,
	Desk,
	Guard,
	Id,
	KeptTile,
	MaskChange,
	MirrorSpot,
	Project,
	Refusal,
	Look as SeenPart,
	Sight,
	Spot,
	StrokeSpec,
} from '@eppu/core/document';
import type { Sample, Tip } from '@eppu/core/stroke';
import type { Plane } from '@eppu/core/target';

/** A stroke as it goes into the journal while it is made. */
export interface LiveStroke {
	readonly spec: StrokeSpec;
	readonly samples: readonly Sample[];
}

export type Pointing =
	| {
			readonly on: 'model';
			readonly model: Id;
			readonly sight: Sight;
			readonly x: number;
			readonly y: number;
			readonly radius: number;
			/** Planes over which strokes are mirrored. */
			readonly planes: readonly Plane[];
	  }
	| { readonly on: 'sheet'; readonly sheet: Id; readonly sight: Sight | null; readonly x: number; readonly y: number };

export type ToStudio =
	| { readonly say: 'open'; readonly project: Id; readonly live: LiveStroke | null }
	| { readonly say: 'run'; readonly command: Command; readonly gesture?: string }
	| { readonly say: 'undo' }
	| { readonly say: 'redo' }
	| { readonly say: 'begin'; readonly spec: StrokeSpec; readonly samples: readonly Sample[] }
	| { readonly say: 'extend'; readonly samples: readonly Sample[] }
	| { readonly say: 'end' }
	| { readonly say: 'cancel' }
	| {
			readonly say: 'fill';
			readonly place: Pointing;
			readonly layers: Readonly<Record<Id, Id>>;
			readonly color: Hex;
			readonly guard: Guard | null;
			readonly onMask: boolean;
	  }
	| { readonly say: 'mask'; readonly sheet: Id; readonly layer: Id; readonly change: MaskChange }
	| { readonly say: 'merge' | 'flatten'; readonly sheet: Id; readonly layer: Id; readonly newId: Id }
	| { readonly say: 'build-up'; readonly ask: number; readonly sheet: Id }
	/** Only a part of a sheet is seen from now on; null shows all. */
	| { readonly say: 'look'; readonly sheet: Id; readonly look: SeenPart | null }
	| { readonly say: 'point'; readonly place: Pointing | null }
	| {
			readonly say: 'sample';
			readonly place: Pointing;
			readonly size: number;
			/** The active layer of each sheet where only that is sampled; null takes what is seen. */
			readonly layers: Readonly<Record<Id, Id>> | null;
	  }
	/** What of the model lies at a place, for the guard. */
	| { readonly say: 'touch'; readonly place: Pointing }
	/** A tip's stroke, or a stencil's picture, as something to look at. */
	| {
			readonly say: 'preview';
			readonly ask: number;
			readonly tip: Tip;
			readonly color: Hex;
			readonly width: number;
			readonly height: number;
	  }
	| { readonly say: 'stencil'; readonly ask: number; readonly picture: string }
	/** A picture of the artist's own is about to be used. */
	| { readonly say: 'need'; readonly picture: string }
	| { readonly say: 'png'; readonly ask: number; readonly sheet: Id; readonly width: number; readonly height: number }
	| { readonly say: 'keep-now' };

/** A mesh as the model view draws it. */
export interface ShownModel {
	readonly id: Id;
	readonly positions: Float32Array;
	readonly normals: Float32Array | null;
	readonly uvs: Float32Array;
	readonly indices: Uint32Array;
	/** The sheet of each part, and its run of faces. */
	readonly parts: readonly {
		readonly name: string;
		readonly sheet: Id;
		readonly firstFace: number;
		readonly faces: number;
	}[];
	/** Per face. */
	readonly partOfFace: Uint16Array;
	readonly islandOfFace: Uint32Array;
	/** Pairs of vertex indexes. */
	readonly seams: Uint32Array;
	readonly center: readonly [number, number, number];
	readonly radius: number;
}

/** What of the document is shown beside the pixels. */
export interface Outline {
	readonly project: Project;
	readonly done: readonly string[];
	readonly undone: readonly string[];
}

/** A picture to be shown. */
export interface Look {
	readonly width: number;
	readonly height: number;
	readonly data: Uint8ClampedArray<ArrayBuffer>;
}

export interface Thumbnail {
	readonly layer: Id;
	readonly on: 'color' | 'mask';
	readonly size: number;
	readonly data: Uint8ClampedArray<ArrayBuffer>;
}

export type FromStudio =
	| {
			readonly say: 'opened';
			readonly outline: Outline;
			readonly desk: Desk | null;
			readonly models: readonly ShownModel[];
			readonly restored: boolean;
	  }
	| { readonly say: 'not-opened'; readonly text: string; readonly gone: boolean }
	| { readonly say: 'outline'; readonly outline: Outline }
	/** Tiles of a sheet's composite: indexes, and 16 KiB of RGBA8 for each. */
	| { readonly say: 'patch'; readonly sheet: Id; readonly tiles: Uint32Array; readonly data: Uint8Array<ArrayBuffer> }
	/** All tiles that were due are shown. */
	| { readonly say: 'settled' }
	| {
			readonly say: 'spot';
			readonly spot: Spot | null;
			readonly from: 'model' | 'sheet';
			readonly mirrors: readonly MirrorSpot[];
	  }
	| { readonly say: 'touched'; readonly spot: Spot }
	| { readonly say: 'looked'; readonly ask: number; readonly picture: Look | null }
	| { readonly say: 'sampled'; readonly color: Hex }
	| { readonly say: 'refused'; readonly refusal: Refusal }
	| { readonly say: 'thumbnails'; readonly list: readonly Thumbnail[] }
	| {
			readonly say: 'png';
			readonly ask: number;
			readonly bytes: Uint8Array<ArrayBuffer> | null;
			readonly text: string | null;
	  }
	| { readonly say: 'stroke'; readonly sheet: Id }
	| { readonly say: 'failed'; readonly text: string };

export type ToKeeper =
	| { readonly say: 'settle'; readonly project: Id }
	| { readonly say: 'studio'; readonly port: MessagePort }
	| { readonly say: 'try-again' };

/** From the studio, over its own port. */
export type StudioToKeeper =
	| { readonly say: 'based'; readonly project: Id; readonly revision: number }
	| { readonly say: 'keep'; readonly project: Project; readonly tiles: readonly KeptTile[]; readonly strokes: number }
	| { readonly say: 'live'; readonly stroke: LiveStroke | null }
	| { readonly say: 'cover'; readonly project: Id; readonly png: Uint8Array<ArrayBuffer> };

export type Keeping =
	| { readonly state: 'kept'; readonly at: number }
	| { readonly state: 'keeping' }
	/** Not acknowledged yet: held in this browser's journal. */
	| { readonly state: 'held'; readonly strokes: number; readonly why: string }
	| { readonly state: 'conflict' };

export type FromKeeper =
	| {
			readonly say: 'settled';
			readonly project: Id;
			readonly live: LiveStroke | null;
			readonly given: number;
			readonly rescued: boolean;
	  }
	| { readonly say: 'keeping'; readonly keeping: Keeping };
