import { readFile } from 'node:fs/promises';
import { Worker } from 'node:worker_threads';
import { createPool, type FromMember, type Member, type Pool } from '@eppu/core/jobs';
import type { Kernels } from '@eppu/kernels';
import type { Given } from './thread.ts';

/** Bytes of the memory that each member has for itself. */
const ROOM = 8 * 1024 * 1024;

/** Threads of Node that do jobs on the memory of kernels. */
export async function openPool(kernels: Kernels, count: number): Promise<Pool> {
	const { heap } = kernels;
	const file = new URL('../../../../packages/kernels/build/kernels.wasm', import.meta.url);
	const module = await WebAssembly.compile(await readFile(file));
	const rooms = Array.from({ length: count }, () => heap.alloc(ROOM));
	const free = [...rooms];
	const pool = createPool(count, (): Member => {
		const base = free.pop() as number;
		const given: Given = { memory: heap.memory, module, base, bytes: ROOM };
		const worker = new Worker(new URL('./thread.mjs', import.meta.url), { workerData: given });
		let ended = false;
		return {
			post: (message) => worker.postMessage(message),
			hear(answer) {
				worker.on('message', (message: FromMember) => answer(message));
				worker.on('error', () => {});
				worker.on('exit', () => ended || answer(null));
			},
			end() {
				ended = true;
				free.push(base);
				void worker.terminate();
			},
		};
	});
	return {
		...pool,
		get idle() {
			return pool.idle;
		},
		end() {
			pool.end();
			for (const room of rooms) heap.free(room, ROOM);
		},
	};
}
