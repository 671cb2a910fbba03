import encoderModule from '@jsquash/webp/codec/enc/webp_enc.js';
import { defaultOptions } from '@jsquash/webp/meta.js';

/**
 * Writes RGBA with straight alpha as WebP (RFC 9649): with null every texel as it is, also under no alpha, else lossy at
 * a quality of 1 to 100. One module without vector code in every host, so that all write the same bytes.
 */
export type WebpWriter = (
	rgba: Uint8Array,
	width: number,
	height: number,
	quality: number | null,
) => Uint8Array<ArrayBuffer>;

/** The writer from its compiled module. */
export async function createWebpWriter(module: WebAssembly.Module): Promise<WebpWriter> {
	const { encode } = await encoderModule({
		noInitialRun: true,
		instantiateWasm(imports: WebAssembly.Imports, done: (instance: WebAssembly.Instance) => void) {
			const instance = new WebAssembly.Instance(module, imports);
			done(instance);
			return instance.exports;
		},
	});
	return (rgba, width, height, quality) => {
		const options =
			quality === null ? { ...defaultOptions, lossless: 1, exact: 1, quality: 75 } : { ...defaultOptions, quality };
		const made = encode(new Uint8ClampedArray(rgba.buffer, rgba.byteOffset, rgba.byteLength), width, height, options);
		if (!made) throw new Error(`A picture of ${width} by ${height} could not be written as WebP.`);
		return new Uint8Array(made);
	};
}
