import type { Kernels } from '@eppu/kernels';
import { createRecord, freshTexels, putTexels, type TileRecord } from './edit.ts';
import { texelBytes } from './format.ts';
import { readTexels, type Surface } from './surface.ts';
import { TILE } from './tile.ts';

/** A whole picture in rows from the top: RGBA8 straight alpha, or one channel of 8 or 16 bits (little-endian). */
export interface Picture {
	readonly width: number;
	readonly height: number;
	readonly data: Uint8Array;
}

/** Copies a 64x64 tile into a picture, cut at the picture's border. */
export function tileIntoPicture(tile: Uint8Array, picture: Picture, index: number): void {
	const bytes = tile.length / (TILE * TILE);
	const cols = Math.ceil(picture.width / TILE);
	const x = (index % cols) * TILE;
	const y = Math.floor(index / cols) * TILE;
	const run = Math.min(TILE, picture.width - x) * bytes;
	const rows = Math.min(TILE, picture.height - y);
	for (let row = 0; row < rows; row++) {
		const from = row * TILE * bytes;
		picture.data.set(tile.subarray(from, from + run), ((y + row) * picture.width + x) * bytes);
	}
}

/** The surface as one picture. */
export function pictureOfSurface(kernels: Kernels, surface: Surface): Picture {
	const bytes = texelBytes(surface.format);
	const picture = {
		width: surface.width,
		height: surface.height,
		data: new Uint8Array(surface.width * surface.height * bytes),
	};
	for (let i = 0; i < surface.kinds.length; i++)
		if (surface.kinds[i]) tileIntoPicture(readTexels(kernels.heap, surface, i), picture, i);
	return picture;
}

/** Lays a picture of the surface's size over all its tiles, and returns what was there. */
export function pictureIntoSurface(kernels: Kernels, picture: Picture, surface: Surface): TileRecord {
	const bytes = texelBytes(surface.format);
	if (picture.data.length !== surface.width * surface.height * bytes)
		throw new RangeError(`The picture is not of the sheet's size, ${surface.width} by ${surface.height}.`);
	const record = createRecord(surface);
	for (let index = 0; index < surface.kinds.length; index++) {
		const at = freshTexels(kernels.heap, record, index);
		const x = (index % surface.cols) * TILE;
		const y = Math.floor(index / surface.cols) * TILE;
		const run = Math.min(TILE, surface.width - x) * bytes;
		kernels.heap.u8.fill(0, at, at + TILE * TILE * bytes);
		for (let row = 0; row < Math.min(TILE, surface.height - y); row++) {
			const from = ((y + row) * surface.width + x) * bytes;
			kernels.heap.u8.set(picture.data.subarray(from, from + run), at + row * TILE * bytes);
		}
		putTexels(kernels, record, index, at);
	}
	return record;
}
