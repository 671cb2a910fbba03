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

/** A tile of a picture, row by row; clear beyond the picture's border. */
function tileOfPicture({ width, height, data }: Picture, index: number, bytes: number): Uint8Array {
	const tile = new Uint8Array(TILE * TILE * bytes);
	const cols = Math.ceil(width / TILE);
	const x = (index % cols) * TILE;
	const y = Math.floor(index / cols) * TILE;
	const run = Math.min(TILE, width - x) * bytes;
	for (let row = 0; row < Math.min(TILE, height - y); row++) {
		const from = ((y + row) * width + x) * bytes;
		tile.set(data.subarray(from, from + run), row * TILE * bytes);
	}
	return tile;
}

/** Whether tiles look alike: colours of what is clear are not seen. */
function looksAlike(one: Uint8Array, other: Uint8Array, bytes: number): boolean {
	if (bytes !== 4) return one.every((v, i) => v === other[i]);
	const [a, b] = [one, other].map((tile) => new Uint32Array(tile.buffer, tile.byteOffset, tile.length / 4));
	for (let i = 0; i < TILE * TILE; i++) {
		const [x, y] = [a?.[i] as number, b?.[i] as number];
		if (x !== y && (x >>> 24 || y >>> 24)) return false;
	}
	return true;
}

/**
 * Lays a picture of the surface's size over all its tiles, or over those that look otherwise than what is there, and
 * returns what was there.
 */
export function pictureIntoSurface(
	kernels: Kernels,
	picture: Picture,
	surface: Surface,
	only: 'all' | 'other' = 'all',
): TileRecord {
	const bytes = texelBytes(surface.format);
	if (picture.data.length !== surface.width * surface.height * bytes)
		throw new RangeError(`The picture is not of the sheet's size, ${surface.width} by ${surface.height}.`);
	const record = createRecord(surface);
	for (let index = 0; index < surface.kinds.length; index++) {
		const tile = tileOfPicture(picture, index, bytes);
		if (only === 'other' && looksAlike(tile, readTexels(kernels.heap, surface, index), bytes)) continue;
		const at = freshTexels(kernels.heap, record, index);
		kernels.heap.u8.set(tile, at);
		putTexels(kernels, record, index, at);
	}
	return record;
}
