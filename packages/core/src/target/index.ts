export { BIN, type Bins, createBins, dropBins } from './bins.ts';
export {
	type Camera,
	type CameraBasis,
	cameraBasis,
	homeCamera,
	mirrored,
	mirrorPlace,
	type Plane,
	type Projection,
	projectionOf,
	type Row,
	type Vec3,
} from './camera.ts';
export { type Dab, plainDab, type TipPicture } from './dab.ts';
export { mirroredSheet, mirrorSets, type SheetMirror } from './mirror.ts';
export { framing, renderModel } from './render.ts';
export {
	type Coverage,
	clearCoverage,
	coverageTile,
	createCoverage,
	dropCoverage,
	inkOf,
	modelTarget,
	sheetTarget,
	type Target,
	type TexelVisit,
	takeTouched,
} from './target.ts';
export { tipPicture } from './tips.ts';
export { createView, type Reach, seenShare, takenAt, type View } from './view.ts';
