import type { Kernels, Ptr } from '@eppu/kernels';

/** 32-bit numbers of room that growing takes beside the two planes. */
export function growRoom(width: number, by: number): number {
	const rows = Math.ceil(Math.abs(by));
	return (width + 2 * rows + 16) * (2 + Math.ceil(Math.log2(2 * rows + 4)));
}

/**
 * A plane of values 0..1 grown by a disc of `by` cells, below 0 shrunk, into `out`: each cell takes the highest (lowest)
 * value within the disc, so that what is soft stays soft. The disc's edge counts by its share of a cell. `room` is what
 * `growRoom` says; the plane itself is used up.
 */
export function growPlane(
	{ run, heap }: Kernels,
	field: Ptr,
	width: number,
	height: number,
	by: number,
	room: Ptr,
	out: Ptr,
): void {
	const cells = width * height;
	if (by === 0) heap.u8.copyWithin(out, field, field + cells * 4);
	else if (by > 0) run.growField(field, width, height, by, room, out);
	else {
		// What shrinks is what lies beside it grown.
		run.slopeField(field, cells, -1, 1, field);
		run.growField(field, width, height, -by, room, out);
		run.slopeField(out, cells, -1, 1, out);
	}
}

/** The same of numbers that do not lie in the kernels' memory. */
export function grownField(
	kernels: Kernels,
	field: Float32Array,
	width: number,
	height: number,
	by: number,
): Float32Array<ArrayBuffer> {
	const { heap } = kernels;
	// Planes have room up to the next four cells.
	const bytes = [(field.length + 4) * 4, growRoom(width, by) * 4, (field.length + 4) * 4] as const;
	const [from, room, out] = bytes.map((each) => heap.alloc(each)) as [Ptr, Ptr, Ptr];
	new Float32Array(heap.memory.buffer, from, field.length).set(field);
	growPlane(kernels, from, width, height, by, room, out);
	const grown = new Float32Array(heap.memory.buffer, out, field.length).slice();
	for (const [i, at] of [from, room, out].entries()) heap.free(at, bytes[i] as number);
	return grown as Float32Array<ArrayBuffer>;
}
