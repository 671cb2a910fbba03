export { joined } from './bytes.ts';
export {
	copySurface,
	createRecord,
	dropRecord,
	freshTexels,
	putState,
	putTexels,
	recordBytes,
	sameAsBefore,
	swapRecord,
	type TileRecord,
	takeBefore,
	writableTexels,
} from './edit.ts';
export { type TexelFormat, texelBytes, texelFormats, tileBytes } from './format.ts';
export { inflateTexels } from './inflate.ts';
export { type MapPicture, type MapTexel, mapBits, mapReader } from './mapPicture.ts';
export { bytesOfSurface, surfaceOfBytes } from './numbers.ts';
export { type Picture, pictureIntoSurface, pictureOfSurface, tileIntoPicture } from './picture.ts';
export {
	clearSurface,
	createSurface,
	dropTile,
	readTexels,
	type Surface,
	type SurfaceId,
	setTileState,
	settleTile,
	stateTexels,
	surfaceBytes,
	texelAt,
	texelWord,
	tileState,
	writeTexels,
} from './surface.ts';
export { emptyTile, hasTexels, Kind, TILE, TILE_TEXELS, type TileState, tilesFrom } from './tile.ts';
