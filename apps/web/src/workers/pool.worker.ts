/** A member of the pool: does jobs on the studio's memory. */
import { createWorker, type ToMember } from '@eppu/core/jobs';
import { createKernels, guestHeap } from '@eppu/kernels';
import type { PoolGiven } from './pool.ts';

let work: Promise<ReturnType<typeof createWorker>>;

addEventListener('message', async ({ data }: MessageEvent<PoolGiven | ToMember>) => {
	if ('memory' in data) {
		const { memory, module, base, bytes } = data;
		work = createKernels(module, guestHeap(memory, base, bytes)).then((kernels) => createWorker({ kernels }));
		return;
	}
	try {
		const { made, over } = (await work)(data.work);
		postMessage({ n: data.n, made }, { transfer: over });
	} catch (error) {
		console.warn('A job could not be done beside:', error);
		postMessage({ n: data.n, made: null });
	}
});
