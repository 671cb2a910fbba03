import type { MessagePort } from 'node:worker_threads';
import { crafts } from '@eppu/core/crafts';
import { createWorker, type ToMember } from '@eppu/core/jobs';
import { createKernels, guestHeap } from '@eppu/kernels';
import { loadPngReader, loadPngWriter, loadWebpWriter } from '@eppu/kernels/node';

/** What a member of the pool is given. */
export interface Given {
	readonly memory: WebAssembly.Memory;
	readonly module: WebAssembly.Module;
	/** Its own part of the memory. */
	readonly base: number;
	readonly bytes: number;
}

/** Does jobs on the memory that it is given. */
export async function serve({ memory, module, base, bytes }: Given, port: MessagePort): Promise<void> {
	const codecs = { png: loadPngWriter, readPng: loadPngReader, webp: loadWebpWriter };
	const worker = createWorker(await createKernels(module, guestHeap(memory, base, bytes)), crafts, codecs);
	port.on('message', async (message: ToMember) => {
		if ('word' in message) return worker.hear(message.word);
		try {
			const { made, over } = await worker.work(message.work);
			port.postMessage({ n: message.n, made }, over);
		} catch {
			port.postMessage({ n: message.n, made: null });
		}
	});
}
