export { belowOf } from './circle.ts';
export type { Clip } from './clip.ts';
export { type Command, CommandError, type LayerChange, modeWords } from './command.ts';
export {
	currentDesk,
	type Desk,
	emptyDesk,
	type MirrorDesk,
	type SavedView,
	type SheetPlace,
	type StencilDesk,
} from './desk.ts';
export type { Delta, Dirty, KeptTile } from './dirty.ts';
export type { Edit } from './edits.ts';
export type {
	Begun,
	Edited,
	EditOptions,
	Engine,
	MaskChange,
} from './engine.ts';
export type { History, Spill, Spilled } from './history.ts';
export type { LetterPlace } from './letterPlace.ts';
export { cleanNameProblem } from './names.ts';
export { openEngine } from './open.ts';
export { picturesNamed } from './pictures.ts';
export {
	type AdjustLayer,
	type Asset,
	adjustLayer,
	type Coat,
	eachLayer,
	freeName,
	type GroupLayer,
	groupLayer,
	type Id,
	type Layer,
	type LayerPlace,
	layerOf,
	type Mask,
	type Model,
	type ModelPart,
	type PaintLayer,
	type Project,
	paintLayer,
	placeOfLayer,
	SHEET_SIDE,
	type Sheet,
	sheetOf,
	surfacesOfLayer,
	surfacesOfSheet,
	type TextLayer,
	textLayer,
	usualBleed,
	type WashLayer,
	washLayer,
} from './project.ts';
export { type Refusal, whyNotPaint } from './refusal.ts';
export type { MirrorSpot, Scene, Sight, Spot } from './scene.ts';
export type { Look } from './seen.ts';
export type { SelectBy } from './selection.ts';
export { type Guard, guardLets, type StrokePlace, type StrokeSpec } from './spec.ts';
export { desksProblem, paletteProblem, presetProblem, projectProblem, recipeProblem } from './validate.ts';
