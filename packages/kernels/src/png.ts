import initPress, { optimise } from '@jsquash/oxipng/codec/pkg/squoosh_oxipng.js';
import init, { decode, encode } from '@jsquash/png/codec/pkg/squoosh_png.js';

/** Writes RGBA with straight alpha as a PNG of 8 bits a channel, or of 16 (upper byte first): the same bytes in every host. */
export type PngWriter = (rgba: Uint8Array, width: number, height: number, depth?: 8 | 16) => Uint8Array;

/** The writer from its module's bytes, or from where they are fetched. */
export async function createPngWriter(source: BufferSource | WebAssembly.Module | Response): Promise<PngWriter> {
	await init(source);
	return (rgba, width, height, depth = 8) => encode(rgba, width, height, depth);
}

/** A picture as PNG files hold it: RGBA8, straight alpha. */
export interface ReadPng {
	readonly width: number;
	readonly height: number;
	readonly data: Uint8Array<ArrayBuffer>;
}

/** Reads a PNG of any kind texel for texel: no colour is moved by alpha, and none by a colour space. Throws on what is none. */
export type PngReader = (png: Uint8Array) => ReadPng;

/** What the module makes its pictures with, where the host has nothing of the kind. */
class PlainImageData {
	readonly data: Uint8ClampedArray;
	readonly width: number;
	readonly height: number;
	constructor(data: Uint8ClampedArray, width: number, height: number) {
		this.data = data;
		this.width = width;
		this.height = height;
	}
}

/** The reader from its module's bytes, or from where they are fetched. */
export async function createPngReader(source: BufferSource | WebAssembly.Module | Response): Promise<PngReader> {
	const host = globalThis as { ImageData?: unknown };
	host.ImageData ??= PlainImageData;
	await init(source);
	return (png) => {
		const { data, width, height } = decode(png);
		return { width, height, data: new Uint8Array(data) };
	};
}

/** Makes a PNG smaller by trying how its rows are best written; its texels stay, also under no alpha. */
export type PngPress = (png: Uint8Array) => Uint8Array;

/** How hard it tries, 0 to 6: two gives most of what there is to gain. */
const LEVEL = 2;

/** The press from its module's bytes, or from where they are fetched. */
export async function createPngPress(source: BufferSource | WebAssembly.Module | Response): Promise<PngPress> {
	await initPress(source);
	return (png) => optimise(png, LEVEL, false, false);
}
