import { readFile } from 'node:fs/promises';
import type { MessagePort } from 'node:worker_threads';
import { createCompositor, type StackLayer } from '@eppu/core/composite';
import { createKernels, type Heap } from '@eppu/kernels';

interface Given {
	readonly memory: WebAssembly.Memory;
	readonly layers: readonly StackLayer[];
	/** A megabyte of its own in the shared memory, and the place for its tiles. */
	readonly base: number;
	readonly out: number;
}

/** Composites the runs of tiles that it is sent, on the memory that it is given. */
export async function serve({ memory, layers, base, out }: Given, port: MessagePort): Promise<void> {
	let top = base;
	const heap: Heap = {
		memory,
		u8: new Uint8Array(memory.buffer),
		u16: new Uint16Array(memory.buffer),
		u32: new Uint32Array(memory.buffer),
		used: 0,
		alloc(bytes) {
			const at = top;
			top += Math.ceil(bytes / 64) * 64;
			return at;
		},
		reserve() {},
		free() {},
	};
	const wasm = await readFile(new URL('../packages/kernels/build/kernels.wasm', import.meta.url));
	const compositor = createCompositor(await createKernels(wasm, heap));
	port.on('message', ([from, to]: [number, number]) => {
		for (let tile = from; tile < to; tile++) compositor.tile(layers, tile, out);
		port.postMessage('done');
	});
	port.postMessage('ready');
}
