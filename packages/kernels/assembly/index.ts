// The kernels' one module: everything exported here is arithmetic on memory that the caller lays out.
export { runTile } from "./composite";
export { classifyColor, classifyMask, clear, copy } from "./tile";
export { dabRecords, roundTip, stampFlat } from "./dab";
export { layColor, layMask, wipeColor } from "./lay";
