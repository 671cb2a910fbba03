/** A byte address in the kernels' memory; 0 is never handed out. */
export type Ptr = number;

const PAGE = 65536;
/** The module's own statics lie below this. */
const START = 65536;
const ALIGN = 64;
/** Bytes of a colour tile: what most blocks are. */
const TILE_BYTES = 16384;

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
	/**
	 * Makes sure that `bytes` more can be handed out, before anything is begun that needs them. Throws MemoryFullError,
	 * changing nothing, where there is no such room.
	 */
	reserve(bytes: number): void;
	/** Bytes handed out and not given back. */
	readonly used: number;
	/** A part of another's memory: small, and whole again only when all of it came back. */
	readonly guest: boolean;
}

/** The machine, or the memory itself, has no more to give. Nothing was changed. */
export class MemoryFullError extends RangeError {
	override readonly name = 'MemoryFullError';
}

const MOST_PAGES = 65536;

const roundUp = (bytes: number): number => Math.ceil(bytes / ALIGN) * ALIGN;

/**
 * Blocks of a memory from `start` on: a rising top, and a free list for each size that came back. `rise` is called with
 * where the top shall come to, and throws where it cannot. With `guest` another thread may make the memory grow.
 */
function heapOver(memory: WebAssembly.Memory, start: Ptr, guest: boolean, rise: (end: Ptr) => void): Heap {
	const free = new Map<number, Ptr[]>();
	let top = start;
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
	const room = (end: Ptr): void => {
		rise(end);
		view();
	};
	return {
		memory,
		guest,
		get u8() {
			if (guest) view();
			return u8;
		},
		get u16() {
			if (guest) view();
			return u16;
		},
		get u32() {
			if (guest) view();
			return u32;
		},
		get used() {
			return used;
		},
		alloc(bytes) {
			const size = roundUp(bytes);
			const again = free.get(size)?.pop();
			if (again === undefined) room(top + size);
			used += size;
			if (again !== undefined) return again;
			top += size;
			return top - size;
		},
		reserve(bytes) {
			// Blocks of tiles that came back serve again.
			const idle = (free.get(TILE_BYTES)?.length ?? 0) * TILE_BYTES;
			if (idle < bytes) room(top + bytes - idle);
		},
		free(ptr, bytes) {
			const size = roundUp(bytes);
			used -= size;
			if (used === 0) {
				// Blocks of other sizes than are asked for next would fill a guest's part for good.
				free.clear();
				top = start;
				return;
			}
			const list = free.get(size);
			if (list) list.push(ptr);
			else free.set(size, [ptr]);
		},
	};
}

/** A heap over a new shared memory of at most 4 GiB. Throws MemoryFullError where the machine has no more to give. */
export function createHeap(initialPages = 64, mostPages = MOST_PAGES): Heap {
	const memory = new WebAssembly.Memory({ initial: initialPages, maximum: mostPages, shared: true });
	/** Grows to hold all up to `end`; by an eighth at least, so that many small blocks do not each pay for a growth. */
	return heapOver(memory, START, false, (end) => {
		const have = memory.buffer.byteLength;
		if (end <= have) return;
		const need = Math.ceil((end - have) / PAGE);
		const room = mostPages - have / PAGE;
		if (need > room) throw new MemoryFullError('The memory is full.');
		try {
			memory.grow(Math.min(Math.max(need, have >> 19), room));
		} catch {
			try {
				memory.grow(need);
			} catch {
				throw new MemoryFullError('The memory is full.');
			}
		}
	});
}

/**
 * A part of the owner's memory as another thread's heap: `bytes` bytes from `start` on, which the owner handed out. It
 * never grows; throws MemoryFullError where it is full.
 */
export const guestHeap = (memory: WebAssembly.Memory, start: Ptr, bytes: number): Heap =>
	heapOver(memory, start, true, (end) => {
		if (end > start + bytes) throw new MemoryFullError('The part of the memory is full.');
	});
