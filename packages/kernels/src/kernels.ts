import type { KernelExports } from './exports.ts';
import { createHeap, type Heap } from './heap.ts';

/** An instance of the module on a heap: what the rooms of core are given to touch pixels with. */
export interface Kernels {
	readonly heap: Heap;
	readonly run: KernelExports;
}

/**
 * Instantiates the kernels from the module's bytes, or from a module that another thread compiled, on a heap of its
 * own unless one is given.
 */
export async function createKernels(
	source: BufferSource | WebAssembly.Module,
	heap: Heap = createHeap(),
): Promise<Kernels> {
	const module = source instanceof WebAssembly.Module ? source : await WebAssembly.compile(source);
	const instance = await WebAssembly.instantiate(module, { env: { memory: heap.memory } });
	return { heap, run: instance.exports as unknown as KernelExports };
}
