export { belowOf } from './below.ts';
export { applyCommand, type Command, CommandError, type LayerChange, modeWords, surfacesOfCommand } from './command.ts';
export { currentDesk, type Desk, emptyDesk, type MirrorDesk, type SheetPlace, type StencilDesk } from './desk.ts';
export { type Guard, guardLets } from './guard.ts';
export {
	allTiles,
	eachLayer,
	layerOf,
	placeOfLayer,
	sheetOf,
	sheetRect,
	surfacesOfLayer,
	surfacesOfSheet,
} from './layerTree.ts';
export { cleanNameProblem, freeName } from './names.ts';
export { adjustLayer, groupLayer, paintLayer, textLayer, usualBleed, washLayer } from './newLayer.ts';
export {
	type AdjustLayer,
	type Asset,
	type Coat,
	type GroupLayer,
	type Id,
	type Layer,
	type Mask,
	type Model,
	type PaintLayer,
	type Project,
	SHEET_SIDE,
	type Sheet,
	type TextLayer,
	type WashLayer,
} from './types.ts';
export { desksProblem, paletteProblem, presetProblem, projectProblem, recipeProblem } from './validate.ts';
