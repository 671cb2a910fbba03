export { belowOf } from './below.ts';
export { type BakesSet, MOST_BAKES } from './command/bakesSet.ts';
export { applyCommand, type Command, commandKindOf, commandKinds, surfacesNamed } from './command/index.ts';
export { type Applied, CommandError, type CommandKind, type Doing, type NeededSurface } from './command/kind.ts';
export type { LayerChange } from './command/layerChange.ts';
export { needSheet } from './command/need.ts';
export { currentDesk, type Desk, emptyDesk, type MirrorDesk, type SheetPlace, type StencilDesk } from './desk.ts';
export { type Guard, guardLets, namesFaces, type ToneGuard, toneLets } from './guard.ts';
export { type AdjustLayer, adjustLayer } from './layer/adjust.ts';
export { groupLayer } from './layer/group.ts';
export { kindOf, layerKinds, leafKinds } from './layer/index.ts';
export type { AnyLayer, Content, LayerKind, Place, PlaceMove } from './layer/kind.ts';
export { type LightLayer, lightLayer } from './layer/light.ts';
export { type PaintLayer, paintLayer } from './layer/paint.ts';
export { type TextLayer, textLayer } from './layer/text.ts';
export { type WashLayer, washLayer } from './layer/wash.ts';
export type { Coat, Id, LayerBase, Mask } from './layerBase.ts';
export {
	allTiles,
	assetsOf,
	bakeFilesOf,
	eachLayer,
	filesOfBakes,
	type KeptPlace,
	layerMoved,
	layerOf,
	layersIn,
	ownSurfaceOf,
	placeOfLayer,
	sheetOf,
	sheetRect,
	surfacesOfLayer,
	surfacesOfProject,
	surfacesOfSheet,
	withSurfaces,
} from './layerTree.ts';
export { cleanNameProblem, freeName, islandName } from './names.ts';
export { lightOver, type Raised, raisedOn, raisedUnder, spanOf } from './relief.ts';
export { isStrict, usualBleed } from './sheets.ts';
export {
	type Asset,
	type GroupLayer,
	type IslandName,
	type Layer,
	type Model,
	type ModelPart,
	type Numbers,
	type Project,
	SHEET_SIDE,
	type Sheet,
} from './types.ts';
export {
	changeProblem,
	desksProblem,
	lightProblem,
	paletteProblem,
	presetProblem,
	projectProblem,
	recipeProblem,
} from './validate.ts';
