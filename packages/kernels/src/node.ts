import { readFile } from 'node:fs/promises';
import { createKernels, type Kernels } from './kernels.ts';

/** The kernels in Node, read from the built module. `file` names it where the code was bundled elsewhere. */
export async function loadKernels(
	file: string | URL = new URL('../build/kernels.wasm', import.meta.url),
): Promise<Kernels> {
	return createKernels(await readFile(file));
}
