import initPress, { optimise } from '@jsquash/oxipng/codec/pkg/squoosh_oxipng.js';
import init, { decode, decode_rgba16, encode } from '@jsquash/png/codec/pkg/squoosh_png.js';

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

/** A picture with 16 bits a channel: RGBA, straight alpha. */
export interface ReadDeepPng {
	readonly width: number;
	readonly height: number;
	readonly data: Uint16Array<ArrayBuffer>;
}

/** Reads a PNG of any kind texel for texel: no colour is moved by alpha, and none by a colour space. Throws on what is none. */
export type PngReader = (png: Uint8Array) => ReadPng;

/** A reader that gives the numbers of 16 bits as well: those of 8 are widened. */
export interface DeepPngReader extends PngReader {
	readonly deep: (png: Uint8Array) => ReadDeepPng;
}

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
export async function createPngReader(source: BufferSource | WebAssembly.Module | Response): Promise<DeepPngReader> {
	const host = globalThis as { ImageData?: unknown };
	host.ImageData ??= PlainImageData;
	await init(source);
	const read: PngReader = (png) => {
		const { data, width, height } = decode(png);
		return { width, height, data: new Uint8Array(data) };
	};
	const deep = (png: Uint8Array): ReadDeepPng => {
		const found = decode_rgba16(png);
		try {
			const { data, width, height } = found;
			return { width, height, data: new Uint16Array(data) };
		} finally {
			found.free();
		}
	};
	return Object.assign(read, { deep });
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
