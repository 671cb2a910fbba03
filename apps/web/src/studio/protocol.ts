/** What the interface and the studio worker say to each other: one union each way. */
import type { ArrangeChoice } from '@eppu/core/arrange';
import type { Hex, Palette } from '@eppu/core/color';
import type { Asset, Command, Desk, Guard, Id, Sheet } from '@eppu/core/document';
import type { DrawnShape, Edit, SelectBy } from '@eppu/core/edit';
import type {
	ActiveLayers,
	BakeState,
	CarriedSheet,
	EditOptions,
	MaskChange,
	Refusal,
	SeenOptions,
	Look as SeenPart,
	StrokeSpec,
} from '@eppu/core/engine';
import type { TemplateLook } from '@eppu/core/format';
import type { Along, AlongLine, CellPlace } from '@eppu/core/grid';
import type { ExchangeWhat, ModelOrder, PageOrder, TextureFile, TextureOrder } from '@eppu/core/handoff';
import type { ColorPair, Mixing, PassSpec } from '@eppu/core/pixel';
import type { Plane, Sight } from '@eppu/core/projection';
import type { Affine } from '@eppu/core/raster';
import type { MirrorSpot, Spot } from '@eppu/core/scene';
import type { Joining, SelectionChange } from '@eppu/core/select';
import type { Sample, Tip } from '@eppu/core/stroke';
import type { Picture } from '@eppu/core/surface';
import type { UnwrapWay } from '@eppu/core/unwrap';
import type { Cells } from '@eppu/core/wash';
import type { HeldPack, Look, Outline, OutThere, PickBy, Place, RelayWords, ShownModel, Thumbnail } from './told.ts';

/**
 * What changes the project and can be done again from its words alone: it goes into the journal as it is said, before
 * anything is made of it. Pasting is not among these, since what was copied is not in the words.
 */
export const changing = [
	'run',
	'run-all',
	'undo',
	'redo',
	'begin',
	'extend',
	'end',
	'cancel',
	'fill',
	'edit',
	'edit-seen',
	'select',
	'select-seen',
	'pick',
	'selection',
	'move-selection',
	'mask',
	'merge',
	'flatten',
	'cut',
	'relay',
	'seams',
	'vertex-layer',
	'recolor',
	'point-entries',
	'cells',
	'assign-cell',
	'twin',
	'passes',
] as const satisfies readonly ToStudio['say'][];
export type Changing = Extract<ToStudio, { readonly say: (typeof changing)[number] }>;
export const isChanging = (message: ToStudio): message is Changing =>
	(changing as readonly string[]).includes(message.say);

/** A change that was said, with its number: they are done again in this order. */
export interface Said {
	readonly n: number;
	readonly message: Changing;
}

/** A view of a model. */
export interface ModelSeen {
	readonly model: Id;
	readonly sight: Sight;
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
	/** `held` are packs that the server has not taken, oldest first; `said` is done again over them. */
	| {
			readonly say: 'open';
			readonly project: Id;
			readonly held: readonly HeldPack[];
			readonly said: readonly Said[];
	  }
	| { readonly say: 'run'; readonly command: Command; readonly gesture?: string }
	/** Changes of the document that are one step. */
	| {
			readonly say: 'run-all';
			readonly commands: readonly Command[];
			readonly words: string;
			readonly gesture?: string;
	  }
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
			/** Only the joined texels like the one there, that differ by so much at the most; else its island or part. */
			readonly reach: number | null;
			readonly by?: 'island' | 'part';
			/** All texels of that colour, joined or not; and in which pattern. */
			readonly everywhere?: boolean;
			readonly mixing?: Mixing | null;
	  }
	/** Changes pixels at once; edits of one gesture replace each other. */
	| {
			readonly say: 'edit';
			readonly sheet: Id;
			readonly layer: Id | undefined;
			readonly edit: Edit;
			readonly options: EditOptions;
	  }
	/** The same in the plane of a view of a model. */
	| ({
			readonly say: 'edit-seen';
			readonly layers: ActiveLayers;
			readonly edit: Edit;
			readonly options: SeenOptions;
	  } & ModelSeen)
	| { readonly say: 'select'; readonly sheet: Id; readonly by: SelectBy; readonly joining: Joining }
	| ({ readonly say: 'select-seen'; readonly by: DrawnShape; readonly joining: Joining } & ModelSeen)
	/** What lies at a place of either view is selected. */
	| {
			readonly say: 'pick';
			readonly place: Pointing;
			readonly by: PickBy;
			readonly joining: Joining;
			/** The active layer of each sheet where only that is looked at; null looks at all. */
			readonly layers: Readonly<Record<Id, Id>> | null;
	  }
	| {
			readonly say: 'selection';
			readonly sheet: Id;
			readonly change: SelectionChange;
			/** Other sheets on which something is selected and changes alike. */
			readonly also?: readonly Id[];
	  }
	| { readonly say: 'move-selection'; readonly sheet: Id; readonly map: Affine; readonly gesture: string }
	/** The way along contrast edges from the last anchor; an anchor begins a new one. */
	| { readonly say: 'cling'; readonly ask: number; readonly sheet: Id; readonly from: Place | null; readonly to: Place }
	| {
			readonly say: 'bounds';
			readonly ask: number;
			readonly sheet: Id;
			readonly layer: Id | undefined;
			readonly onMask: boolean;
	  }
	| ({
			readonly say: 'cling-seen';
			readonly ask: number;
			readonly from: Place | null;
			readonly to: Place;
	  } & ModelSeen)
	| ({
			readonly say: 'bounds-seen';
			readonly ask: number;
			readonly layers: ActiveLayers;
			readonly options: SeenOptions;
	  } & ModelSeen)
	/** Which texels show at px of a view. */
	| ({ readonly say: 'spots'; readonly ask: number; readonly points: readonly number[] } & ModelSeen)
	/** How faces of a model (all where there are none named) would lie another way. */
	| {
			readonly say: 'anew';
			readonly ask: number;
			readonly model: Id;
			readonly faces: Uint32Array | null;
			/** Null only arranges the islands that there are. */
			readonly way: UnwrapWay | null;
			/** Not those faces, but the islands that the marked edges cut, or at which they are sewn together. */
			readonly joining: 'cut' | 'sew' | null;
			readonly choice: ArrangeChoice;
			/** How much larger than others each part is to be. */
			readonly weights: readonly number[];
	  }
	/** The edge at a place, the loop that it is part of, or the way to it from another. */
	| {
			readonly say: 'edge';
			readonly ask: number;
			readonly place: Pointing;
			readonly by: 'edge' | 'loop' | 'way';
			readonly from: number | null;
	  }
	/** Has the mesh of a model's file at hand, so that a change can name it; answered with why not. */
	| { readonly say: 'bring'; readonly ask: number; readonly asset: Asset }
	/** Models lie on their sheets in another way; `seed` begins the names of what is made for it. */
	| { readonly say: 'relay'; readonly change: RelayWords; readonly words: string; readonly seed: string }
	/** The colours at a model's vertices become a layer on each of its sheets. */
	| { readonly say: 'vertex-layer'; readonly model: Id; readonly seed: string }
	/** A model as a file, with what is painted as colours at its vertices. */
	| { readonly say: 'vertex-file'; readonly ask: number; readonly model: Id; readonly as: 'ply' | 'glb' }
	/** One file of an order of textures, of which this many more follow. */
	| { readonly say: 'texture-out'; readonly ask: number; readonly file: TextureFile; readonly order: TextureOrder }
	/** A model as files, as it lies on its sheets now. */
	| { readonly say: 'model-out'; readonly ask: number; readonly model: Id; readonly order: ModelOrder }
	/** A sheet's layers as OpenRaster. */
	| { readonly say: 'layers-out'; readonly ask: number; readonly sheet: Id }
	/** Layers from elsewhere take the place of a sheet's, or come as one more sheet. */
	| {
			readonly say: 'layers-in';
			readonly ask: number;
			readonly sheet: Id | null;
			readonly name: string;
			readonly bytes: Uint8Array<ArrayBuffer>;
			readonly seed: string;
	  }
	/** A file that goes out to another editor. */
	| { readonly say: 'exchange-out'; readonly ask: number; readonly project: Id; readonly what: ExchangeWhat }
	/** What another editor saved of it; answered when it is here, and after the stroke that is being made. */
	| {
			readonly say: 'exchange-in';
			readonly ask: number;
			readonly out: OutThere;
			/** The saving's number. */
			readonly n: number;
	  }
	/** A page that shows the work; it tells how far it is, and ends early where it is stopped. */
	| { readonly say: 'page-out'; readonly ask: number; readonly order: PageOrder }
	/** The whole project as one open ZIP. */
	| { readonly say: 'project-out'; readonly ask: number; readonly desk: Desk | null }
	/** What is being written for a question is not wanted any more. */
	| { readonly say: 'stop-out'; readonly of: number }
	/** Edges of a model are marked to be cut, or not any more; `anew` clears all others. */
	| {
			readonly say: 'seams';
			readonly model: Id;
			/** Each by a corner that it begins at; or the borders of the islands, or the edges that bend sharply. */
			readonly corners: readonly number[] | 'borders' | 'sharp';
			readonly on: boolean;
			readonly anew: boolean;
			readonly words: string;
			readonly seed: string;
	  }
	/** What a model is like on its sheets. */
	| { readonly say: 'report'; readonly ask: number; readonly model: Id }
	| { readonly say: 'histogram'; readonly ask: number; readonly sheet: Id; readonly layer: Id | undefined }
	/** How much of a model a bake met nothing of its finer mesh for. */
	| { readonly say: 'missed'; readonly ask: number; readonly bake: string }
	| { readonly say: 'letter-place'; readonly ask: number; readonly sheet: Id; readonly x: number; readonly y: number }
	/** The small pictures of a recipe's steps are wanted now and after each change; null no more. */
	| { readonly say: 'steps'; readonly of: { readonly sheet: Id; readonly layer: Id } | null }
	| { readonly say: 'copy'; readonly sheet: Id; readonly layer: Id }
	| { readonly say: 'paste'; readonly sheet: Id; readonly at: number; readonly parent: Id | null }
	| { readonly say: 'mask'; readonly sheet: Id; readonly layer: Id; readonly change: MaskChange }
	/** A colour grid with other cells; faces go with their cells. */
	| {
			readonly say: 'cells';
			readonly sheet: Id;
			readonly cells: Cells;
			readonly moves: readonly (readonly [CellPlace, CellPlace])[];
			readonly words: string;
			readonly seed: string;
			readonly gesture?: string;
	  }
	/** Light and dark of a layer become layers above it. */
	| {
			readonly say: 'passes';
			readonly sheet: Id;
			readonly layer: Id;
			readonly spec: PassSpec;
			readonly newIds: readonly [light: Id, dark: Id];
	  }
	/** What is painted on a part is laid on its twin too. */
	| { readonly say: 'twin'; readonly model: Id; readonly part: number; readonly layers: ActiveLayers }
	/** What lies at a place of a model or of the grid's sheet, or a part by its number, is put in a cell. */
	| {
			readonly say: 'assign-cell';
			readonly sheet: Id;
			readonly place: Pointing | { readonly on: 'part'; readonly model: Id; readonly part: number };
			readonly by: 'part' | 'island' | 'face';
			readonly cell: CellPlace;
			readonly along: Exclude<Along, AlongLine> | 'line';
			/** Where the line ends that begins at the place. */
			readonly end?: Pointing;
			readonly seed: string;
	  }
	/** Colours become others on whole sheets, with another palette where one is told: one step. */
	| {
			readonly say: 'recolor';
			readonly sheets: readonly Id[];
			readonly pairs: readonly ColorPair[];
			readonly palette: Palette | null;
			/** Also textures of the bundle whose paths have these words. */
			readonly only?: string;
			readonly gesture?: string;
			/** The palette's entries are the same ones in other colours: what points at them follows. */
			readonly turned?: boolean;
	  }
	/** The texels of a layer point at the palette's entries from now on. */
	| { readonly say: 'point-entries'; readonly sheet: Id; readonly layer: Id; readonly newId: Id }
	| { readonly say: 'entry-uses'; readonly ask: number; readonly sheet: Id }
	| { readonly say: 'merge'; readonly sheet: Id; readonly layer: Id; readonly newId: Id }
	| { readonly say: 'flatten'; readonly sheet: Id; readonly layer: Id; readonly newId: Id }
	/** What is selected of a layer becomes a layer of its own. */
	| { readonly say: 'cut'; readonly sheet: Id; readonly layer: Id; readonly newId: Id }
	/** A picture becomes a layer. */
	/** A new sheet with a picture on its one layer. */
	| { readonly say: 'bring-sheet'; readonly sheet: Sheet; readonly picture: Picture }
	| {
			readonly say: 'paste-picture';
			readonly sheet: Id;
			readonly at: number;
			readonly parent: Id | null;
			readonly name: string;
			readonly picture: { readonly width: number; readonly height: number; readonly data: Uint8Array };
	  }
	| { readonly say: 'build-up'; readonly ask: number; readonly sheet: Id }
	/** Masks by recipe, finishes and fills: leave what is not computed yet, or go on. */
	| { readonly say: 'halt'; readonly on: boolean }
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
	/** A stencil to look at; of those that ship a small one where it is only chosen by. */
	| { readonly say: 'stencil'; readonly ask: number; readonly picture: string; readonly small: boolean }
	/** A picture of the artist's own is about to be used. */
	| { readonly say: 'need'; readonly picture: string }
	/** A bake on a sheet as a PNG of 16 bits a channel, or of 8. */
	| {
			readonly say: 'bake-file';
			readonly ask: number;
			readonly sheet: Id;
			readonly bake: string;
			readonly depth: 8 | 16;
	  }
	/** What stands out on a sheet, in one of the looks of relief, as a PNG of 16 bits a channel, or of 8. */
	| {
			readonly say: 'relief-file';
			readonly ask: number;
			readonly sheet: Id;
			readonly look: string;
			readonly depth: 8 | 16;
	  }
	/** A sheet's template, so many px wide. */
	| {
			readonly say: 'template';
			readonly ask: number;
			readonly sheet: Id;
			readonly width: number;
			readonly look: TemplateLook;
			readonly as: 'png' | 'svg';
	  }
	/** The project goes on as a copy. */
	| { readonly say: 'adopt'; readonly project: Id; readonly name: string }
	/** All of the work as one file. */
	| { readonly say: 'file'; readonly ask: number }
	| { readonly say: 'keep-now' }
	/** What is left to be kept is given to the keeper, and it is told. */
	| { readonly say: 'leave' };

/** What comes over the studio's line: its port to the keeper, and intentions, changes with their number. */
export type ToStudioLine =
	| { readonly say: 'keeper'; readonly port: MessagePort; readonly n?: undefined }
	/** A patch is in its picture: the page can take another. */
	| { readonly say: 'patched'; readonly n?: undefined }
	| (ToStudio & { readonly n?: number });

export type FromStudio =
	/** The studio has begun to fetch the project that it was told to open. */
	| { readonly say: 'fetching'; readonly project: Id }
	/** What a project that is being opened holds: the screen is made while its paint is read. */
	| {
			readonly say: 'coming';
			readonly outline: Outline;
			readonly desk: Desk | null;
			readonly models: readonly ShownModel[];
	  }
	/** It can be worked at. */
	| {
			readonly say: 'opened';
			readonly outline: Outline;
			/** How many strokes were done again. */
			readonly restored: number;
			/** Kept tiles that could not be read, by the name of their layer. */
			readonly leftOut: readonly string[];
	  }
	| { readonly say: 'not-opened'; readonly text: string; readonly why: 'gone' | 'away' | 'broken' }
	| { readonly say: 'outline'; readonly outline: Outline }
	/** Models lie otherwise than they did, or are here at last: the project was told before them. */
	| { readonly say: 'models'; readonly models: readonly ShownModel[]; readonly first?: boolean }
	/** Edges of models that are marked to be cut, each by a corner that it begins at. */
	| { readonly say: 'marked'; readonly marks: ReadonlyMap<Id, Uint32Array> }
	/** What became of the paint where models came to lie otherwise. */
	| { readonly say: 'carried'; readonly report: readonly CarriedSheet[] }
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
	/** Lines round what is selected: closed, in texels of the sheet, and as pairs of places on the model. */
	| {
			readonly say: 'selected';
			readonly sheet: Id;
			readonly lines: readonly Int32Array[];
			readonly model: Float32Array<ArrayBuffer>;
	  }
	/** How far what is being written is, 0..1. */
	| { readonly say: 'writing'; readonly ask: number; readonly done: number }
	/** How much of the paint was taken along, 0..1. */
	| { readonly say: 'carrying'; readonly share: number }
	/** An answer to what was asked: plain data. */
	| { readonly say: 'told'; readonly ask: number; readonly answer: unknown }
	| { readonly say: 'steps'; readonly layer: Id; readonly side: number; readonly tones: readonly Uint8Array[] }
	/** How much of what follows from the document is still to be computed: tiles left of those that were due. */
	| {
			readonly say: 'computing';
			readonly left: number;
			readonly all: number;
			readonly halted: boolean;
			/** How far each bake is. */
			readonly bakes: readonly BakeState[];
	  }
	| { readonly say: 'pasted'; readonly sheet: Id; readonly layer: Id }
	| { readonly say: 'sampled'; readonly color: Hex }
	| { readonly say: 'refused'; readonly refusal: Refusal }
	| { readonly say: 'thumbnails'; readonly list: readonly Thumbnail[] }
	| {
			readonly say: 'written';
			readonly ask: number;
			readonly bytes: Uint8Array<ArrayBuffer> | null;
			readonly text: string | null;
	  }
	| { readonly say: 'stroke'; readonly sheet: Id }
	| { readonly say: 'failed'; readonly text: string };
