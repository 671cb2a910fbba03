import type { Kernels, Ptr } from '@eppu/kernels';
import type { Hex, Palette } from '../color/index.ts';
import type { Pictures, ReturnedLoan } from '../derive/index.ts';
import type { Command, Guard, Id, Layer, Project, Sheet } from '../document/index.ts';
import type { Clip, DrawnShape, Edit, SelectBy } from '../edit/index.ts';
import type { Along, CellPlace } from '../grid/index.ts';
import type { CompositeWork, DeriveWork } from '../jobs/index.ts';
import type { Layout } from '../layout/index.ts';
import type { LaidMesh } from '../mesh/index.ts';
import type { PassSpec } from '../pixel/index.ts';
import type { Sight } from '../projection/index.ts';
import type { Affine, Rect } from '../raster/index.ts';
import type { LetterPlace, Scene } from '../scene/index.ts';
import type { Joining, SelectionChange } from '../select/index.ts';
import type { Sample } from '../stroke/index.ts';
import type { Picture, Surface, SurfaceId } from '../surface/index.ts';
import type { Cells } from '../wash/index.ts';
import type { BakeState, DeepPicture } from './deepPicture.ts';
import type { Delta, KeptTile } from './delta.ts';
import type { Dirty } from './dirty.ts';
import type { Look } from './focus.ts';
import type { History, Step } from './history.ts';
import type { KeptStep, StoredTile } from './keptStep.ts';
import type { MadeKeeping } from './made.ts';
import type { Refusal } from './refusal.ts';
import type { CarriedSheet, Relaying } from './relaying.ts';
import type { StrokeSpec } from './strokeSpec.ts';

export type Begun =
	| { readonly ok: true; readonly sheet: Id; readonly dirty: Dirty }
	| { readonly ok: false; readonly refusal: Refusal };

/** Layers by themselves, on nothing or on a colour. */
export interface LooseStack {
	readonly layers: readonly Layer[];
	readonly base: Hex | null;
}

/** One document open for work: every change goes through here, in any host. */
export interface Engine extends MadeKeeping {
	readonly kernels: Kernels;
	readonly project: Project;
	readonly history: History;
	/** Pictures that tips and stencils are made of. */
	readonly pictures: Pictures;
	scene(model: Id): Scene | undefined;
	run(command: Command, gesture?: string): Dirty;
	/** Commands as one step, in their order; where one does not fit, nothing is changed. */
	runAll(commands: readonly Command[], words: string, gesture?: string): Dirty;
	undo(): { readonly words: string; readonly dirty: Dirty } | null;
	/** A step as it outlives the tab, with what it brings back that the project names no more. */
	packStep(step: Step): KeptStep;
	/**
	 * Steps of an earlier visit, oldest first, that lead to the project as it is opened; returns those that can be taken
	 * back, from the latest on.
	 */
	recallSteps(steps: readonly KeptStep<StoredTile>[]): readonly Step[];
	redo(): { readonly words: string; readonly dirty: Dirty } | null;
	/** Begins with the first samples, since on the model they say which sheet is painted. */
	begin(spec: StrokeSpec, first: readonly Sample[]): Begun;
	extend(samples: readonly Sample[]): Dirty;
	end(): Dirty;
	/** Why the last stroke changed nothing, or null where it did. */
	readonly missed: Refusal | null;
	cancel(): Dirty;
	readonly stroking: boolean;
	/** Makes ready what the first stroke on each sheet will need; some hundred ms for a large sheet. */
	prepare(sheet: Id): void;
	/** Makes ready what a stroke near a px of a view will need. */
	warm(model: Id, sight: Sight, x: number, y: number, radius: number): void;
	/**
	 * Fills the island at a texel, or all of its part that lies on the sheet, within the guard; the whole sheet where there
	 * is no model. A wash takes the colour.
	 */
	fill(sheet: Id, layer: Id | undefined, x: number, y: number, color: Hex, options?: FillOptions): Edited;
	/**
	 * Changes the pixels of a paint layer or a mask at once; the selection and a guard limit it. Edits of one gesture
	 * replace each other and are one step.
	 */
	edit(sheet: Id, layer: Id | undefined, edit: Edit, options?: EditOptions): Edited;
	/**
	 * The same in the plane of a view of a model: places are px, and what is seen there changes, on every sheet whose
	 * active layer takes it, as one step. With `outlineOnly` a move takes the selection alone.
	 */
	editSeen(model: Id, sight: Sight, layers: ActiveLayers, edit: Edit, options?: SeenOptions): Edited;
	/** The px of a view that what would be moved there lies in; null where nothing of it is seen. */
	boundsSeen(model: Id, sight: Sight, layers: ActiveLayers, options?: SeenOptions): Rect | null;
	/** The texels that show at px of a view, one after the other; null where the model is not. */
	spotsSeen(model: Id, sight: Sight, points: readonly number[]): readonly (SeenSpot | null)[];
	/** Joins what is asked for to the sheet's selection; tells where there is nothing of the kind. */
	select(sheet: Id, by: SelectBy, joining: Joining): Edited;
	/** The same by a shape in px of a view, on all sheets that it shows there, as one step. */
	selectSeen(model: Id, sight: Sight, by: DrawnShape, joining: Joining): Edited;
	/** Changes the selection of a sheet; what makes one larger, softer or none does it on `also` too, in the same step. */
	changeSelection(sheet: Id, change: SelectionChange, also?: readonly Id[]): Edited;
	/** The lines between what is selected and what is not, in texels; empty where nothing is selected. */
	selectionLines(sheet: Id): Int32Array[];
	/** Moves the selection's outline alone, not what is in it. */
	moveSelection(sheet: Id, map: Affine, gesture?: string): Edited;
	/** Counts changes of selections. */
	readonly selectionTurn: number;
	/** Counts changes of any kind, undo and redo among them: whoever remembers what was made asks it. */
	readonly turn: number;
	/** The selection's lines on the model that shows the sheet: pairs of places x, y, z. */
	selectionOnModel(sheet: Id): Float32Array;
	/** The texels that what would be moved lies in: what is selected, else the layer's content; null where there is none. */
	bounds(sheet: Id, layer: Id | undefined, onMask: boolean): Rect | null;
	/** How often each tone, and each value of red, green and blue, occurs: 4 × 256 counts of a layer alone, or of what lies below an adjust layer. */
	histogram(sheet: Id, layer: Id | undefined): Uint32Array;
	/** Where lettering reads right on the island at a texel. */
	letterPlace(sheet: Id, x: number, y: number): LetterPlace | null;
	/** Takes a layer up, only what is selected of it where there is a selection. */
	clip(sheet: Id, layer: Id): Clip;
	/** What is selected of a paint layer becomes a layer of its own above it, in one step. Throws CommandError where nothing is. */
	cut(sheet: Id, layer: Id, newId: Id): Dirty;
	/** Puts a clip down as a new layer; returns its id. */
	paste(
		clip: Clip,
		sheet: Id,
		at: number,
		parent: Id | null,
		newId: () => string,
	): { readonly layer: Id; readonly dirty: Dirty };
	/**
	 * Computes what follows from the document and is due, until told to stop: recipes, lettering, fills, finishes, and bakes
	 * but where there are `others` who do them.
	 */
	refresh(stop: () => boolean, others?: boolean): Dirty;
	readonly due: boolean;
	/** Tiles still to be computed. */
	readonly left: number;
	/** Pictures of the artist's own have come: what is made with them is due. */
	renew(): void;
	/** What becomes due of a sheet is computed, and given away, from this texel outwards. */
	near(sheet: Id, x: number, y: number): void;
	/** Up to so many due tiles as a job for somebody else; null where there are none that can be given away now. */
	lend(most: number): DeriveWork | null;
	/** What was made of such a job, or null where it could not be done. */
	returned(work: DeriveWork, made: ReturnedLoan | null): void;
	/** What each step of a mask's recipe makes so far, as A8 squares of `side`. */
	recipeSteps(sheet: Id, layer: Id, side: number): Uint8Array[];
	/** Inverts a layer's mask, fills it with one value, or turns it into the layer's own alpha. */
	changeMask(sheet: Id, layer: Id, change: MaskChange): Dirty;
	/**
	 * Makes one paint layer of a layer and the one below it, or of a group. Throws CommandError, changing nothing, where
	 * the picture would not stay as it is seen.
	 */
	mergeDown(sheet: Id, layer: Id, newId: Id): Dirty;
	flatten(sheet: Id, group: Id, newId: Id): Dirty;
	/** A new sheet of one paint layer with a picture on it, after all others: one step. Throws CommandError where it does not fit. */
	bringSheet(sheet: Sheet, picture: Picture): Dirty;
	/**
	 * Light and dark of a layer of a pixel sheet as two layers above it, a step along the ramps each: one step. Throws
	 * CommandError where nothing of it would be changed.
	 */
	addPasses(sheet: Id, layer: Id, spec: PassSpec, newIds: readonly [light: Id, dark: Id]): Dirty;
	/** What the active layer has on a part of a model is laid on its twin too, mirrored over the model's middle. */
	repeatOnTwin(model: Id, part: number, layers: ActiveLayers): Edited;
	/**
	 * A colour grid with other cells, or another count of them: one step. Faces go with their cell to its place; `moves` says
	 * which cells go elsewhere. A gesture that goes on takes its last step back first. Throws CommandError where a cell would
	 * have no place.
	 */
	changeCells(
		sheet: Id,
		next: Cells,
		moves: readonly (readonly [from: CellPlace, to: CellPlace])[],
		words: string,
		newId: () => SurfaceId,
		gesture?: string,
	): Dirty;
	/** Faces of models lie in a cell; a part that comes from another sheet comes as a whole, its paint with it: one step. */
	assignCell(
		sheet: Id,
		taken: ReadonlyMap<Id, readonly number[]>,
		cell: CellPlace,
		along: Along,
		newId: () => SurfaceId,
	): Dirty;
	/**
	 * Lets the texels of a paint layer of a pixel sheet point at the palette's entries: each takes the nearest colour of those,
	 * and has what its entry has from then on. `newId` is a surface's. Throws CommandError where that cannot be.
	 */
	pointAtEntries(sheet: Id, layer: Id, newId: SurfaceId): Dirty;
	/** How many texels of a sheet point at each entry of the palette, in its order. */
	entryUses(sheet: Id): number[];
	/** The colours of the composites of sheets, the most used first. */
	colorsUsed(sheets: readonly Id[]): ColorCount;
	/**
	 * Gives texels of some colours others, on every unlocked paint layer and plain wash of the sheets, within what is
	 * selected there, and puts another palette in place: one step. With `only` also of the textures of the bundle whose paths
	 * have those words, which are no sheets yet. Where it is `turned` the palette's entries are the same ones in other colours,
	 * and what points at them follows. A gesture that goes on takes its last step back first.
	 */
	recolor(
		sheets: readonly Id[],
		pairs: readonly (readonly [Hex, Hex])[],
		palette: Palette | null,
		only?: string | null,
		gesture?: string,
		turned?: boolean,
	): Dirty;
	/** Lays a picture of the sheet's size on a paint layer or a layer's mask. */
	lay(sheet: Id, layer: Id, on: 'color' | 'mask', picture: Picture, words: string): Dirty;
	/** What `compositeTile` shows of a sheet from now on; null shows all again. Exports stay whole. */
	look(sheet: Id, seen: Look | null): Dirty;
	/** How far each bake is on each sheet of its model: tiles still to be computed, of so many. */
	bakeStates(): readonly BakeState[];
	/**
	 * The share of a model's texels where a bake met nothing of its finer mesh, 0..1; null where it is of the model itself
	 * or still to be computed.
	 */
	bakeMissed(bake: string): number | null;
	/** A bake on a sheet with 16 bits a channel, computed for it; throws CommandError where there is none. */
	bakePicture(sheet: Id, bake: string): DeepPicture;
	/** What stands out on a sheet in one of the looks of relief, with 16 bits a channel; throws CommandError where nothing does. */
	reliefPicture(sheet: Id, look: string): DeepPicture;
	/** What each of the layers of a sheet adds, lowest first: the picture up to each of them, groups as one. */
	buildUp(sheet: Id, visit: (picture: Picture, name: string) => void): void;
	/** Writes a tile of a sheet's composite, RGBA8, to `out`. */
	compositeTile(sheet: Id, tile: number, out: Ptr): void;
	/** Tiles of a sheet as a job, as they are now; null while they are shown otherwise: looked at alone, or painted on. */
	compositeWork(sheet: Id, tiles: readonly number[]): CompositeWork | null;
	composite(sheet: Id): Picture;
	/**
	 * A layer or group by itself on nothing, at full strength: with its mask and finishes, or `bare` without. Throws
	 * CommandError where it is not there.
	 */
	layerPicture(sheet: Id, layer: Id, bare?: boolean): Picture;
	/** A layer's mask as it is painted or computed, on or off, one byte a texel; null where it has none. */
	maskPicture(sheet: Id, layer: Id): Picture | null;
	/**
	 * Layers of a sheet by themselves, several stacks together, tile by tile and before anything is rounded to bytes: for each its eights of texels, row by row,
	 * as reds, greens, blues and alphas, premultiplied, 32767 for one. They hold until the next tile.
	 */
	fineStacks(
		sheet: Id,
		stacks: readonly LooseStack[],
		visit: (tile: number, stacks: readonly Int16Array[]) => void,
	): void;
	/** A new sheet with all its layers and what lies on them, after all others: one step. */
	bringLayers(sheet: Sheet, texels: ReadonlyMap<SurfaceId, Picture>): Dirty;
	/**
	 * A sheet gets other layers, with the texels of the surfaces that they bring along; on those that it has already, what
	 * looks otherwise: one step.
	 */
	takeLayers(sheet: Id, layers: readonly Layer[], texels: ReadonlyMap<SurfaceId, Picture>, words: string): Dirty;
	/** Mean colour of a square of `size` texels around one of the composite, or of a layer alone, as r, g, b, a. */
	sample(sheet: Id, x: number, y: number, layer?: Id, size?: number): readonly [number, number, number, number];
	surface(id: SurfaceId): Surface | undefined;
	/**
	 * Models lie on their sheets in another way, and all paint goes with the surface: one step, and a word on what became
	 * of each sheet that it touches. `newId` names the surfaces that it makes; `far` is told the share of them that is made,
	 * 0..1. Throws CommandError, changing nothing, where that cannot be.
	 */
	relay(
		change: Relaying,
		words: string,
		newId: () => SurfaceId,
		far?: (share: number) => void,
	): { readonly dirty: Dirty; readonly report: readonly CarriedSheet[] };
	/** Which edges of a model are marked to be cut: a byte a corner, both sides of an edge alike. */
	seams(model: Id): Uint8Array;
	/** Marks edges, each by a corner that it begins at, or takes their marks away; `anew` clears all others. */
	markSeams(
		model: Id,
		change: { readonly corners: readonly number[]; readonly on: boolean; readonly anew?: boolean },
		words: string,
		newId: () => string,
	): Dirty;
	/** A layer on each sheet of a model with the colours that its file has at vertices; throws CommandError where it has none. */
	vertexLayer(model: Id, newId: () => SurfaceId): Dirty;
	/** A model with what is painted as colours at its vertices: the mean of what lies around each. */
	vertexColored(model: Id): LaidMesh;
	/** A model's scene as it would lie with another layout; whoever asks drops it. Null where the model is not here. */
	sceneAs(model: Id, layout: Layout | null): Scene | null;
	/** Meshes by the hash of their file, as it says: one is put in before a change names it. */
	readonly meshes: Map<string, LaidMesh>;
	/** After kept tiles came: models lie as those say. */
	layAgain(): void;
	/** What is to be kept since the last call, without a stroke that is being made. */
	takeDelta(): Delta | null;
	/** Takes more kept tiles in while the project is opened, before anything of it is shown or changed. */
	takeKept(tiles: Iterable<KeptTile>): void;
	/** The whole of what is made, to be kept as a new project. */
	whole(): Delta;
	/** The project goes on under another id and name: no step, and nothing to be kept. */
	adopt(id: Id, name: string): void;
	/** Surfaces of kept tiles that did not fit when the project was opened, and so are not here: one for each tile. */
	readonly leftOut: readonly SurfaceId[];
	close(): void;
}

/** What is done to a whole mask at once; 'selection' shows what is selected and hides the rest; 'painted' turns a recipe's mask into one painted by hand. */
export type MaskChange =
	| { readonly to: 'inverse' | 'pixels' | 'selection' | 'painted' }
	| { readonly to: 'value'; readonly value: number };

export interface EditOptions {
	readonly onMask?: boolean;
	readonly guard?: Guard | null;
	readonly gesture?: string;
}

export interface FillOptions {
	readonly guard?: Guard | null;
	readonly onMask?: boolean;
	readonly by?: 'island' | 'part';
}

export interface SeenOptions extends EditOptions {
	readonly outlineOnly?: boolean;
	/** The sheet whose layer moves where nothing is selected; all where it is left out. */
	readonly lifts?: Id;
}

/** The active layer of each sheet. */
export type ActiveLayers = Readonly<Record<Id, Id>>;

/** What shows at a px of a view. */
export interface SeenSpot {
	readonly sheet: Id;
	readonly island: number;
	/** Texels. */
	readonly x: number;
	readonly y: number;
}

/** Colours, as r | g << 8 | b << 16, by how many texels have them, the most first. */
export type ColorCount = readonly (readonly [color: number, texels: number])[];

export type Edited = { readonly ok: true; readonly dirty: Dirty } | { readonly ok: false; readonly refusal: Refusal };
