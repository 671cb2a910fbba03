import initPress, { optimise } from '@jsquash/oxipng/codec/pkg/squoosh_oxipng.js';
import init, { encode } from '@jsquash/png/codec/pkg/squoosh_png.js';

/** Writes RGBA with straight alpha as a PNG of 8 bits a channel, or of 16 (upper byte first): the same bytes in every host. */
export type PngWriter = (rgba: Uint8Array, width: number, height: number, depth?: 8 | 16) => Uint8Array;

/** The writer from its module's bytes, or from where they are fetched. */
export async function createPngWriter(source: BufferSource | WebAssembly.Module | Response): Promise<PngWriter> {
	await init(source);
	return (rgba, width, height, depth = 8) => encode(rgba, width, height, depth);
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
