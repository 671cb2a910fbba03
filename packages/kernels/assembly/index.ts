// The kernels' one module: everything exported here is arithmetic on memory that the caller lays out.
export { runTile } from "./composite";
export { classifyColor, classifyDeep, classifyMask, clear, copy } from "./tile";
export { dabRecords, pictureRecords, pictureTip, roundTip, stampFlat, stampInk } from "./dab";
export { cubeLabs, fitCube } from "./cube";
export { blurRegion, mapColors, mapTable } from "./filter";
export { curveCoverage, gateCoverage, layColor, layInk, layMask, mixColor, wipeColor } from "./lay";
export { smearDab } from "./smear";
export { carryColor, carryMask } from "./carry";
export { clouds } from "./noise";
export { brushed, dripped, scratched, speckle } from "./chance";
export { alongSurface, bandField, edgeSquares, placeCells, placeSome, putCells, rampCells, takeCells, wantedCells } from "./ground";
export { boxField, fillField, finerBytes, growField, joinFields, levelField, slopeField, smudgeField, toneBytes, warpField, widenField } from "./field";
export { hashBytes } from "./hash";
export { occlusion, rayLengths, rayMeets } from "./rays";
export { bendCells } from "./bend";
export { deepTones, leanNormals, shadeCells, strokeNormals, toneDeeps } from "./shade";
