export {
	type ExchangeFile,
	type ExchangeWhat,
	planExchange,
	type ReadSaving,
	readSaving,
	type Taken,
	takeExchange,
	writeExchange,
} from './exchange.ts';
export { type Channels, type FileKind, fileKindOf, fileKinds, OrderError, type Writers } from './file/index.ts';
export { grayPicture } from './gray.ts';
export { type ModelKind, modelKindOf, modelKinds } from './model/index.ts';
export { type ModelOrder, modelOrderProblem, usualModelOrder, writeModel } from './models.ts';
export { freeNames, nameBy } from './name.ts';
export {
	MOST_SIDE,
	nameParts,
	orderProblem,
	patternProblem,
	type TextureOrder,
	usualOrder,
	usualOrders,
} from './order.ts';
export { type PageOrder, pageProblem, usualPage, writePage } from './page.ts';
export { pageScript } from './pageText.ts';
export { type ProjectParts, planProjectZip, readProjectZip, writeProjectZip } from './projectZip.ts';
export { readyPicture, sizeBy } from './ready.ts';
export { type SourceKind, sourceKindOf, sourceKinds } from './source/index.ts';
export { spread } from './spread.ts';
export { type TextureWork, textureJob, type WrittenTexture, writtenTexture } from './textureJob.ts';
export {
	type TextureFile,
	type TextureWriter,
	textureFiles,
	textureWork,
	textureWriter,
	writeTexture,
} from './textures.ts';
