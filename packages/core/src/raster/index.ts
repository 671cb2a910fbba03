export {
	contentTiles,
	cutBlock,
	emptySurface,
	isTile,
	readBlock,
	replaceTiles,
	tileRect,
	tilesOfRect,
	writeBlock,
} from './block.ts';
export { blurAlong, blurField, blurReach, boxRadii, fieldAt } from './blur.ts';
export { contourOf } from './contour.ts';
export { signedDistances, squaredDistances } from './distance.ts';
export { grownField, growPlane, growRoom } from './grow.ts';
export { latticeValue } from './noise.ts';
export { type Affine, after, identity, inverseOf, mappedPath, type Path, pathCoverage, pathRect } from './path.ts';
export { around, grownRect, isEmptyRect, meet, type Rect } from './rect.ts';
export { type Block, resampled } from './resample.ts';
export { giveTexels, takeTexels } from './spare.ts';
