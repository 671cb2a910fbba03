/** A byte address in the kernels' memory; 0 is never handed out. */
export type Ptr = number;

const PAGE = 65536;
/** The module's own statics lie below this. */
const START = 65536;
const ALIGN = 64;

/** Blocks of the kernels' memory: a rising top, and a free list for each size that came back. */
export interface Heap {
	readonly memory: WebAssembly.Memory;
	/** Bytes of the whole memory; made anew after growth, so do not hold it over an `alloc`. */
	readonly u8: Uint8Array;
	readonly u16: Uint16Array;
	readonly u32: Uint32Array;
	/** A block of at least `bytes` bytes, 64-byte aligned; its content is whatever was there. */
	alloc(bytes: number): Ptr;
	/** Gives a block back; `bytes` as it was asked for. */
	free(ptr: Ptr, bytes: number): void;
	/** Bytes handed out and not given back. */
	readonly used: number;
}

const roundUp = (bytes: number): number => Math.ceil(bytes / ALIGN) * ALIGN;

/** A heap over a new shared memory of at most 4 GiB. Throws RangeError where the machine has no more to give. */
export function createHeap(initialPages = 64): Heap {
	const memory = new WebAssembly.Memory({ initial: initialPages, maximum: 65536, shared: true });
	const free = new Map<number, Ptr[]>();
	let top = START;
	let used = 0;
	let u8 = new Uint8Array(memory.buffer);
	let u16 = new Uint16Array(memory.buffer);
	let u32 = new Uint32Array(memory.buffer);
	const view = (): void => {
		if (u8.byteLength === memory.buffer.byteLength) return;
		u8 = new Uint8Array(memory.buffer);
		u16 = new Uint16Array(memory.buffer);
		u32 = new Uint32Array(memory.buffer);
	};
	return {
		memory,
		get u8() {
			return u8;
		},
		get u16() {
			return u16;
		},
		get u32() {
			return u32;
		},
		get used() {
			return used;
		},
		alloc(bytes) {
			const size = roundUp(bytes);
			used += size;
			const again = free.get(size)?.pop();
			if (again !== undefined) return again;
			const ptr = top;
			top += size;
			const have = memory.buffer.byteLength;
			// Grow by an eighth at least, so that many small blocks do not each pay for a growth.
			if (top > have) {
				const need = Math.ceil((top - have) / PAGE);
				memory.grow(Math.min(Math.max(need, have >> 19), 65536 - have / PAGE));
				view();
			}
			return ptr;
		},
		free(ptr, bytes) {
			const size = roundUp(bytes);
			used -= size;
			const list = free.get(size);
			if (list) list.push(ptr);
			else free.set(size, [ptr]);
		},
	};
}
