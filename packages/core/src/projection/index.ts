export { type Bins, createBins, dropBins } from './bins.ts';
export {
	type Camera,
	cameraBasis,
	cameraShape,
	homeCamera,
	mirrored,
	mirrorPlace,
	type Plane,
	placeShape,
	planeThrough,
	projectionOf,
	type Vec3,
} from './camera.ts';
export { type Dab, plainDab, type TipPicture } from './dab.ts';
export { facesNear } from './faceCells.ts';
export { mirroredSheet, mirrorSets, type SheetMirror } from './mirror.ts';
export { framing, renderModel } from './render.ts';
export { type ScreenRows, shownAt } from './screenRows.ts';
export { coverSeen, facesSeen, type SeenTexels, seenTexels, texelOfPx } from './seen.ts';
export type { Sight } from './sight.ts';
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
	takeTouched,
} from './target.ts';
export { tipPicture } from './tips.ts';
export { createView, type Reach, seenShare, takenAt, type View } from './view.ts';
