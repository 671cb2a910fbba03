import type { Id } from '@eppu/core/document';
import type { CellPlace } from '@eppu/core/grid';
import type { BoxMove } from '@eppu/core/pixel';
import type { Rect } from '@eppu/core/raster';
import type { ModelSeen, Pointing } from '../protocol.ts';

/** What a click of the guard tool takes in. */
export type GuardBy = 'islands' | 'parts' | 'faces';

/** How something is moved from where it was: about the middle of its box. */
export interface Moving extends BoxMove {
	readonly sheet: Id;
	readonly layer: Id;
	/** The view that it is moved in; null where it is moved on the sheet, and all is texels. */
	readonly seen: ModelSeen | null;
	readonly gesture: string;
}

export type MovingOn = 'sheet' | 'model';

/** A click where a model is laid out. */
export interface Pressed {
	readonly pointing: Pointing;
	readonly shiftKey: boolean;
	/** 2 for the second of a double click. */
	readonly count: number;
}

/** How the faces of a model are coloured where it is laid out: nothing is painted meanwhile. */
export interface Shading {
	readonly model: Id;
	/** Red, green, blue of each face; null leaves the paint. */
	readonly colors: Uint8Array | null;
	/** A checker with letters and numbers in the place of the paint. */
	readonly checker: boolean;
	/** Faces that are pointed out. */
	readonly lit: Uint32Array | null;
	/** Edges that are marked to be cut, each by a corner that it begins at. */
	readonly marks: Uint32Array | null;
	/** The cut that is pointed at: each side of it by a corner that it begins at. */
	readonly cut: Uint32Array | null;
	/** How far outside of the model a cage is drawn round it, hundredths of the model; none where it is left out. */
	readonly cage?: number;
	/** How far the model is laid flat, 0 to 1. */
	readonly unfold: number;
	/** Hears a click on either view. */
	readonly press: (at: Pressed) => void;
	/** Whether a press takes chosen islands up; they are moved then, by texels from there. */
	readonly grab: (pointing: Pointing | null) => boolean;
	readonly drag: (dx: number, dy: number) => void;
}

/** What of the open project the screen shows, and what the hand is about. */
export interface Screen {
	/** The name of the tool in the hand (tools/list.ts). */
	readonly tool: string;
	/** The name of the drawer that is open (rail/list.ts). */
	readonly drawer: string | null;
	readonly overlaysHidden: boolean;
	/** Pixel sheets are shown as they were when this visit began. */
	readonly beforeShown: boolean;
	/** Both views show how light each place is, and no colour. */
	readonly valuesOnly: boolean;
	/** The model goes round by itself. */
	readonly turning: boolean;
	/** The pose, by its name, that figures are looked at in; null at rest. */
	readonly posing: string | null;
	/** Pictures of a turn are being drawn. */
	readonly savingTurns: boolean;
	readonly asking: boolean;
	/** A layer that was just added: its row takes the focus when it is there. */
	readonly newLayer: Id | null;
	/** Layers chosen together with the active one. */
	readonly chosen: readonly Id[];
	/** Groups whose layers are not listed. */
	readonly folded: ReadonlySet<Id>;
	/** How many of a sheet's layers are seen in the build-up; null where all are. */
	readonly builtUp: { readonly sheet: Id; readonly count: number } | null;
	/** What is seen alone. */
	readonly alone: { readonly sheet: Id; readonly layer: Id; readonly on: 'layer' | 'mask' } | null;
	/** The next drag on the model draws a mirror plane. */
	readonly slanting: boolean;
	/** What is being moved on the sheet and in the view of the model: its box before, and where it goes. */
	readonly moves: Readonly<Record<MovingOn, Moving | null>>;
	/** Where it was moved last: what the bay's figures are of. */
	readonly movingOn: MovingOn;
	/** Only the outline of a selection is moved, not what is in it. */
	readonly outlineOnly: boolean;
	readonly guardBy: GuardBy;
	/** Texels that are pointed out on the active sheet. */
	readonly pointedOut: Rect | null;
	/** The cell of a colour grid that is worked on; while `movingCell` the next place that is pressed is its new one. */
	readonly cell: CellPlace | null;
	readonly movingCell: boolean;
	/** Where a line begins along which faces are to lie in the cell; its end is pressed next. */
	readonly cellLine: Pointing | null;
	/** The place of the grid that something is carried over. */
	readonly cellOver: CellPlace | null;
	/** What letting go would do, in words, and where on the screen that is said. */
	readonly carried: { readonly words: string; readonly x: number; readonly y: number } | null;
	/** The model that is shown where several lie on the active sheet. */
	readonly modelPicked: Id | null;
	/** Null where one paints. */
	readonly shading: Shading | null;
}

export const screen: Screen = {
	tool: 'draw',
	drawer: null,
	overlaysHidden: false,
	beforeShown: false,
	valuesOnly: false,
	turning: false,
	posing: null,
	savingTurns: false,
	asking: false,
	newLayer: null,
	chosen: [],
	folded: new Set(),
	builtUp: null,
	alone: null,
	slanting: false,
	moves: { sheet: null, model: null },
	movingOn: 'sheet',
	outlineOnly: false,
	guardBy: 'islands',
	pointedOut: null,
	cell: null,
	movingCell: false,
	cellLine: null,
	cellOver: null,
	carried: null,
	modelPicked: null,
	shading: null,
};
