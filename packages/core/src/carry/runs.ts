import type { Kernels, Ptr } from '@eppu/kernels';
import { pictureOfSurface, type Surface } from '../surface/index.ts';
import type { Owners } from './owners.ts';
import type { Way } from './way.ts';

/** Texels of the largest sheet that is laid out in the kernels' memory as one: beyond it the slower way takes less. */
const MOST_TEXELS = 4096 * 4096;

/** Reads runs of texels in the kernels. */
export interface Runs {
	/**
	 * Reads `count` texels of a row from x, y on along a way, into `texels`; calls `miss` with each that is at a rim and
	 * must be read with care.
	 */
	read(way: Way, island: number, x: number, y: number, count: number, samples: number, miss: (i: number) => void): void;
	/** What was read last: a view of the kernels' memory. */
	texels(count: number): Uint8Array;
	drop(): void;
}

/** Null where the sheet is too large for it, or its texels of 16 bits. */
export function createRuns(kernels: Kernels, from: Surface, { owner, deep }: Owners, longest: number): Runs | null {
	const { heap, run } = kernels;
	const { width, height, format } = from;
	if (width * height > MOST_TEXELS || format === 'deep') return null;
	const bytes = format === 'color' ? 4 : 1;
	const sizes = [width * height * bytes, width * height * 4, longest * bytes, longest * 4] as const;
	const [source, deeps, out, missed] = sizes.map((size) => heap.alloc(size)) as [Ptr, Ptr, Ptr, Ptr];
	heap.u8.set(pictureOfSurface(kernels, from).data, source);
	const words = heap.u32.subarray(deeps >> 2, (deeps >> 2) + width * height);
	for (let i = 0; i < words.length; i++) words[i] = deep[i] ? (owner[i] as number) : 0;
	const carry = format === 'color' ? run.carryColor : run.carryMask;
	return {
		read([a, b, c, d, e, f], island, x, y, count, samples, miss) {
			const sx = a * (x + 0.5) + b * (y + 0.5) + c;
			const sy = d * (x + 0.5) + e * (y + 0.5) + f;
			const misses = carry(source, deeps, width, height, island, sx, sy, a, d, b, e, samples, count, out, missed);
			const list = heap.u32;
			for (let i = 0; i < misses; i++) miss(list[(missed >> 2) + i] as number);
		},
		texels: (count) => heap.u8.subarray(out, out + count * bytes),
		drop() {
			for (const [i, size] of sizes.entries()) heap.free([source, deeps, out, missed][i] as Ptr, size);
		},
	};
}
