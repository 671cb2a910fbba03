export { type Command, CommandError, type LayerChange, modeWords } from './command.ts';
export { type Desk, emptyDesk, type SheetPlace } from './desk.ts';
export {
	type Begun,
	type Delta,
	type Dirty,
	type Engine,
	type KeptTile,
	openEngine,
	type StrokePlace,
	type StrokeSpec,
} from './engine.ts';
export type { History } from './history.ts';
export {
	type Asset,
	freeName,
	type Id,
	type Layer,
	layerOf,
	type Mask,
	type Model,
	type ModelPart,
	type PaintLayer,
	type Project,
	paintLayer,
	SHEET_SIDE,
	type Sheet,
	sheetOf,
	surfacesOfLayer,
	usualBleed,
	type WashLayer,
	washLayer,
} from './project.ts';
export { type Refusal, whyNotPaint } from './refusal.ts';
export type { Scene, Sight, Spot } from './scene.ts';
export { desksProblem, projectProblem } from './validate.ts';
