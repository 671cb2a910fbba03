/** A member of the pool: does jobs on the studio's memory. */
import { crafts } from '@eppu/core/crafts';
import { createWorker, type JobWorker, type ToMember } from '@eppu/core/jobs';
import { giveFonts } from '@eppu/core/text';
import { createKernels, guestHeap } from '@eppu/kernels';
import { codecs } from '../server/codecs.ts';
import { patientKernels } from './hand.ts';
import type { PoolGiven } from './pool.ts';

let worker: Promise<JobWorker>;
/** What is done now lets the hand go first. */
let patient = false;

addEventListener('message', async ({ data }: MessageEvent<PoolGiven | ToMember>) => {
	if ('memory' in data) {
		const { memory, module, base, bytes, fonts, hand } = data;
		giveFonts(fonts);
		worker = createKernels(module, guestHeap(memory, base, bytes)).then((own) =>
			createWorker(hand ? patientKernels(own, hand, () => patient) : own, crafts, codecs),
		);
		return;
	}
	if ('word' in data) return (await worker).hear(data.word);
	patient = data.patient;
	try {
		const { made, over } = await (await worker).work(data.work);
		postMessage({ n: data.n, made }, { transfer: over });
	} catch (error) {
		console.warn('A job could not be done beside:', error);
		postMessage({ n: data.n, made: null });
	}
});
