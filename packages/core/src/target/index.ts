export { BIN, type Bins, createBins, dropBins } from './bins.ts';
export {
	type Camera,
	type CameraBasis,
	cameraBasis,
	homeCamera,
	type Projection,
	projectionOf,
	type Row,
	type Vec3,
} from './camera.ts';
export type { Dab } from './dab.ts';
export { framing, renderModel } from './render.ts';
export {
	type Coverage,
	clearCoverage,
	coverageTile,
	createCoverage,
	dropCoverage,
	modelTarget,
	sheetTarget,
	type Target,
	takeTouched,
} from './target.ts';
export { createView, isSeen, type View } from './view.ts';
