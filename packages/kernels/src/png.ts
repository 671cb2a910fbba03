import init, { encode } from '@jsquash/png/codec/pkg/squoosh_png.js';

/** Writes RGBA8 with straight alpha as a PNG of 8 bits a channel: the same bytes in every host. */
export type PngWriter = (rgba: Uint8Array, width: number, height: number) => Uint8Array;

/** The writer from its module's bytes, or from where they are fetched. */
export async function createPngWriter(source: BufferSource | WebAssembly.Module | Response): Promise<PngWriter> {
	await init(source);
	return (rgba, width, height) => encode(rgba, width, height, 8);
}
