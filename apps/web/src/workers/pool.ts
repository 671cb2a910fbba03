import { createPool, type FromMember, type Member, type Pool } from '@eppu/core/jobs';
import type { Kernels } from '@eppu/kernels';

/** What a member is given first. */
export interface PoolGiven {
	readonly memory: WebAssembly.Memory;
	readonly module: WebAssembly.Module;
	/** Its own part of the memory. */
	readonly base: number;
	readonly bytes: number;
	/** The file of the shipped fonts, in memory that all share. */
	readonly fonts: Uint8Array;
	/** Whether the hand strokes; null where there are hands enough for all. */
	readonly hand: Int32Array<SharedArrayBuffer> | null;
}

/** With as many cores or fewer, what can wait leaves them to a hand that strokes. */
const FEW_CORES = 2;
/** Bytes of the memory that each member has for itself. */
const ROOM = 8 * 1024 * 1024;
const MOST_MEMBERS = 6;

/**
 * Workers that do jobs on the kernels' memory: the machine's cores less one, one at least. None where memory cannot be
 * shared: all is done on one thread then.
 */
export function openPool(
	{ heap }: Kernels,
	module: WebAssembly.Module,
	fonts: Uint8Array,
	hand: PoolGiven['hand'],
): Pool | null {
	if (!globalThis.crossOriginIsolated) return null;
	const shared = new Uint8Array(new SharedArrayBuffer(fonts.length));
	shared.set(fonts);
	const cores = navigator.hardwareConcurrency || 2;
	const count = Math.max(1, Math.min(MOST_MEMBERS, cores - 1));
	const few = cores <= FEW_CORES ? hand : null;
	const free = Array.from({ length: count }, () => heap.alloc(ROOM));
	return createPool(count, (): Member => {
		const base = free.pop() as number;
		const worker = new Worker(new URL('./pool.worker.ts', import.meta.url), { type: 'module' });
		const given: PoolGiven = { memory: heap.memory, module, base, bytes: ROOM, fonts: shared, hand: few };
		worker.postMessage(given);
		return {
			post: (message) => worker.postMessage(message),
			hear(answer) {
				worker.onmessage = ({ data }: MessageEvent<FromMember>) => answer(data);
				worker.onerror = () => answer(null);
			},
			end() {
				free.push(base);
				worker.terminate();
			},
		};
	});
}
