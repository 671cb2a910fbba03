/** What the interface and the workers tell each other of: plain data. */
import type { AnewLayout } from '@eppu/core/arrange';
import type { Id, Project } from '@eppu/core/document';
import type { ModelHead, SheetHead } from '@eppu/core/engine';
import type { ExchangeWhat } from '@eppu/core/handoff';
import type { NamedFile } from '@eppu/core/mesh';

/** A save that the server has not taken. */
export interface HeldPack {
	/** The revision that it goes out from. */
	readonly base: number;
	readonly save: string;
	readonly pack: Uint8Array<ArrayBuffer>;
}

/** Another way in which models lie on their sheets, as plain data. */
export interface RelayWords {
	/** Places of all corners of a model; null goes back to those of its file. */
	readonly layouts?: readonly (readonly [model: Id, uvs: Float32Array | null])[];
	readonly parts?: readonly (readonly [model: Id, sheets: readonly Id[]])[];
	readonly sheets?: readonly SheetHead[];
	/** Edges of models whose marks go, each by a corner that it begins at. */
	readonly unmarked?: readonly (readonly [model: Id, corners: readonly number[]])[];
	/** All models in their order; the mesh of a file that is new was brought before. */
	readonly models?: readonly ModelHead[];
}

/** How faces would lie: what they would look like, and what is to be known of it; or why they cannot. */
export type Proposal =
	| {
			readonly layout: AnewLayout;
			readonly shown: ShownModel;
			/** Edges whose marks go with it. */
			readonly spent: readonly number[];
	  }
	| { readonly problem: string };

/** Edges of a model, each by a corner that it begins at. */
export interface FoundEdges {
	readonly model: Id;
	readonly corners: readonly number[];
	/** Whether the one pointed at is marked. */
	readonly marked: boolean;
}

/** What is picked at a place. */
export type PickBy =
	| { readonly by: 'piece'; readonly of: 'island' | 'part' | 'face' }
	| { readonly by: 'similar'; readonly reach: number; readonly together: boolean };

export interface Place {
	readonly x: number;
	readonly y: number;
}

/** A mesh as the model view draws it. */
export interface ShownModel {
	/** Its file has colours at vertices. */
	readonly colored: boolean;
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
	/** Edges of the sheet that faces share, and those at its cuts, each by the corner that it begins at: three a face. */
	readonly inner: Uint32Array;
	readonly borders: Uint32Array;
	readonly center: readonly [number, number, number];
	readonly radius: number;
}

/** What of the document is shown beside the pixels. */
export interface Outline {
	readonly project: Project;
	readonly done: readonly string[];
	readonly undone: readonly string[];
	/** What the last step belongs to, where it is of a change that may still go on. */
	readonly gesture: string | null;
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

/** What was written for elsewhere; or, in words, why nothing was. */
export interface OutAnswer {
	readonly files: readonly NamedFile[];
	/** What other programs may show otherwise, or what came otherwise than it was. */
	readonly notes: readonly string[];
	readonly text: string | null;
}

/** What went out to another editor, or why it did not. */
export interface SentAnswer {
	readonly out: OutThere | null;
	/** What other programs may show otherwise. */
	readonly notes: readonly string[];
	readonly text: string | null;
}

/** What became of another editor's saving. */
export interface TakenAnswer {
	readonly changed: boolean;
	readonly notes: readonly string[];
	/** Why it does not fit any more, in words. */
	readonly text: string | null;
	/** The server did not give it: it may be away, or another took it in. */
	readonly again: boolean;
}

/** What is out at another editor, as the server tells it. */
export interface OutThere {
	readonly id: string;
	readonly project: Id;
	readonly what: ExchangeWhat;
	/** Its name in the folder. */
	readonly file: string;
	/** The saving that both sides agree on; 0 is what went out. */
	readonly agreed: number;
	readonly at: number;
	readonly state: 'away' | 'saving' | 'gone' | 'strange';
	/** Savings that wait to be taken in, oldest first. */
	readonly waiting: readonly number[];
}

export interface ExchangeTold {
	/** Where the files lie on the server's machine. */
	readonly folder: string;
	readonly out: readonly OutThere[];
}
