/**
 * The kernels: one WebAssembly module over one shared memory. The caller owns the memory; see `createHeap`.
 */
export type { KernelExports } from './exports.ts';
export { createHeap, guestHeap, type Heap, MemoryFullError, type Ptr } from './heap.ts';
export { createKernels, type Kernels } from './kernels.ts';
export type { DeepPngReader, PngPress, PngReader, PngWriter, ReadDeepPng, ReadPng } from './png.ts';
export type { WebpWriter } from './webp.ts';
