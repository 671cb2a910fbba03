export { animatedPng } from './apng.ts';
export { buildUpPicture, gridOf } from './buildUp.ts';
export { type Bundle, type BundleFile, type BundleResult, readBundle, textureSize } from './bundle.ts';
export { type CoverWork, coverJob, coverOf, coverWork } from './cover.ts';
export { fileName, safeName } from './handOff.ts';
export { packMade, readMade, unpackMade } from './made.ts';
export { type MapFileResult, mapWords, type ReadMapWork, readMap, readMapFile } from './mapFile.ts';
export {
	createPackReader,
	MOST_CHUNK,
	MOST_PACK,
	type Pack,
	PackError,
	type PackedTile,
	type PackPart,
	type PackReader,
	packEnd,
	packFiles,
	packHead,
	packTiles,
	readPack,
	writePack,
} from './pack.ts';
export { MOST_LIBRARY_SIDE, PackedPictureError, packPicture, unpackPicture } from './packedPicture.ts';
export {
	hexList,
	type PaletteKind,
	type PaletteResult,
	paletteBytes,
	paletteKinds,
	paletteName,
	paletteOfHexList,
	paletteOfPicture,
	paletteOfTokens,
	palettePicture,
	paletteTokens,
} from './palette.ts';
export {
	isPictureName,
	MOST_PICTURE_BYTES,
	MOST_PICTURE_SIDE,
	type PictureFile,
	type PictureFileResult,
	pictureEndings,
	readPictureFile,
} from './pictureFile.ts';
export { type PictureWork, type PictureWriter, pictureJob, pictureWriter } from './pictureJob.ts';
export { type Plan, planned } from './plan.ts';
export { bakeNumbers, crc32, encodePng, type Numbers, pictureAsPng, plainPng } from './png.ts';
export { type Filter, resized, shrink } from './resize.ts';
export { type TemplateDrawing, type TemplateLook, templateOf, templatePicture, usualTemplate } from './template.ts';
export { templateSvg } from './templateSvg.ts';
export { zipOf } from './zip.ts';
export { type OpenZip, openZip, type ZipFile } from './zipFiles.ts';
