import type { KernelExports, Kernels, Ptr } from '@eppu/kernels';

/** A plane of 32-bit floats in the kernels' memory, one a cell of a ground, row by row. */
export type Field = Ptr;

/** Planes of three coordinates. */
export type Triple = readonly [Ptr, Ptr, Ptr];

/** Room for planes in the kernels' memory while a ground is worked on. */
export interface Planes {
	readonly kernels: Kernels;
	readonly run: KernelExports;
	/** Room for `cells` 32-bit numbers and up to three more; what is there is whatever was. */
	take(cells: number): Ptr;
	/** What is taken within is given back when `work` returns. */
	within<T>(work: () => T): T;
	floats(at: Ptr, cells: number): Float32Array;
	ints(at: Ptr, cells: number): Int32Array;
	bytes(at: Ptr, count: number): Uint8Array;
}

const CHUNK = 1 << 20;
/** Bytes kept for the next ground. */
const MOST_KEPT = 1 << 24;

interface Chunk {
	readonly at: Ptr;
	readonly bytes: number;
}
/** What is taken of each kernels' chunks: planes of the first `full` chunks and `used` bytes of the next. */
interface Arena {
	readonly chunks: Chunk[];
	full: number;
	used: number;
}

const arenas = new WeakMap<Kernels, Arena>();

/** Calls with room for planes, all of which is given back when it returns. Calls may lie within each other. */
export function withPlanes<T>(kernels: Kernels, work: (planes: Planes) => T): T {
	const { heap, run } = kernels;
	let arena = arenas.get(kernels);
	if (!arena) arenas.set(kernels, (arena = { chunks: [], full: 0, used: 0 }));
	const room = arena;
	const within = <R>(inner: () => R): R => {
		const { full, used } = room;
		try {
			return inner();
		} finally {
			[room.full, room.used] = [full, used];
		}
	};
	const planes: Planes = {
		kernels,
		run,
		within,
		take(cells) {
			const bytes = Math.ceil(cells / 16) * 64 + 64;
			while (room.full < room.chunks.length && room.used + bytes > (room.chunks[room.full] as Chunk).bytes)
				[room.full, room.used] = [room.full + 1, 0];
			if (room.full === room.chunks.length) {
				const size = Math.max(CHUNK, bytes);
				room.chunks.push({ at: heap.alloc(size), bytes: size });
			}
			const at = (room.chunks[room.full] as Chunk).at + room.used;
			room.used += bytes;
			return at;
		},
		floats: (at, cells) => new Float32Array(heap.memory.buffer, at, cells),
		ints: (at, cells) => new Int32Array(heap.memory.buffer, at, cells),
		bytes: (at, count) => new Uint8Array(heap.memory.buffer, at, count),
	};
	try {
		return within(() => work(planes));
	} finally {
		if (room.full === 0 && room.used === 0) {
			let kept = 0;
			const stay = room.chunks.filter(({ bytes }) => (kept += bytes) <= MOST_KEPT);
			for (const chunk of room.chunks) if (!stay.includes(chunk)) heap.free(chunk.at, chunk.bytes);
			room.chunks.splice(0, room.chunks.length, ...stay);
		}
	}
}
