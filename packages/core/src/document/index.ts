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
export {
	type Begun,
	type Delta,
	type Dirty,
	type Engine,
	type KeptTile,
	type MaskChange,
	openEngine,
} from './engine.ts';
export type { History } from './history.ts';
export {
	type AdjustLayer,
	type Asset,
	adjustLayer,
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
	usualBleed,
	type WashLayer,
	washLayer,
} from './project.ts';
export { type Refusal, whyNotPaint } from './refusal.ts';
export type { MirrorSpot, Scene, Sight, Spot } from './scene.ts';
export type { Look } from './seen.ts';
export { type Guard, guardLets, type StrokePlace, type StrokeSpec } from './spec.ts';
export { desksProblem, paletteProblem, presetProblem, projectProblem } from './validate.ts';
