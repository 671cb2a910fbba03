export {
	bringOpenRaster,
	mergeOpenRaster,
	type SavedLayers,
	savedLayers,
	sheetOfOpenRaster,
	takeOpenRaster,
} from './bring.ts';
export type { OraImage, OraLayer, OraNode, OraStack } from './node.ts';
export { alphaOf, laidOut, type Patch } from './patch.ts';
export { OpenRasterError, type Pictures, picturesIn, readOpenRaster } from './read.ts';
export { type TakenLayers, takeLayers } from './take.ts';
export { planOpenRaster, type WrittenLayers, writeOpenRaster } from './write.ts';
