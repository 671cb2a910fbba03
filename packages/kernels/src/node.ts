import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { createKernels, type Kernels } from './kernels.ts';
import { createPngWriter, type PngWriter } from './png.ts';

/** The kernels in Node, read from the built module. `file` names it where the code was bundled elsewhere. */
export async function loadKernels(
	file: string | URL = new URL('../build/kernels.wasm', import.meta.url),
): Promise<Kernels> {
	return createKernels(await readFile(file));
}

/** The PNG writer in Node, read from its package. */
export async function loadPngWriter(): Promise<PngWriter> {
	const file = createRequire(import.meta.url).resolve('@jsquash/png/codec/pkg/squoosh_png_bg.wasm');
	return createPngWriter(await readFile(file));
}
