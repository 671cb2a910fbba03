import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { createKernels, type Kernels } from './kernels.ts';
import {
	createPngPress,
	createPngReader,
	createPngWriter,
	type DeepPngReader,
	type PngPress,
	type PngWriter,
} from './png.ts';
import { createWebpWriter, type WebpWriter } from './webp.ts';

/** The kernels in Node, read from the built module. `file` names it where the code was bundled elsewhere. */
export async function loadKernels(
	file: string | URL = new URL('../build/kernels.wasm', import.meta.url),
): Promise<Kernels> {
	return createKernels(await readFile(file));
}

const ofPackage = (file: string): Promise<Buffer> => readFile(createRequire(import.meta.url).resolve(file));

/** The PNG writer in Node, read from its package. */
export const loadPngWriter = async (): Promise<PngWriter> =>
	createPngWriter(await ofPackage('@jsquash/png/codec/pkg/squoosh_png_bg.wasm'));

/** The PNG reader in Node, read from its package. */
export const loadPngReader = async (): Promise<DeepPngReader> =>
	createPngReader(await ofPackage('@jsquash/png/codec/pkg/squoosh_png_bg.wasm'));

/** The PNG press in Node, read from its package. */
export const loadPngPress = async (): Promise<PngPress> =>
	createPngPress(await ofPackage('@jsquash/oxipng/codec/pkg/squoosh_oxipng_bg.wasm'));

/** The WebP writer in Node, read from its package. */
export const loadWebpWriter = async (): Promise<WebpWriter> =>
	createWebpWriter(await WebAssembly.compile(new Uint8Array(await ofPackage('@jsquash/webp/codec/enc/webp_enc.wasm'))));
