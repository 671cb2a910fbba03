import type { Heap } from '@eppu/kernels';
import { type Surface, texelWord } from '../surface/index.ts';
import type { JobKind, Work } from './kind.ts';

type Thumbnails = Uint8ClampedArray<ArrayBuffer>[];

/** Small pictures of surfaces. */
export interface ThumbnailsWork extends Work<Thumbnails> {
	readonly job: 'thumbnails';
	readonly surfaces: readonly Surface[];
	/** Px along both sides. */
	readonly side: number;
}

/** Texels of surfaces picked on a coarse grid, RGBA8: cheap enough to be made anew whenever the hand rests. */
export const thumbnailsIn = (heap: Heap, { surfaces, side }: Omit<ThumbnailsWork, 'job'>): Thumbnails =>
	surfaces.map((surface) => {
		const out = new Uint32Array(side * side);
		const opaque = surface.format === 'color' ? 0 : 0xff000000;
		for (let i = 0; i < side * side; i++) {
			const x = Math.floor((((i % side) + 0.5) * surface.width) / side);
			const y = Math.floor(((Math.floor(i / side) + 0.5) * surface.height) / side);
			out[i] = texelWord(heap, surface, x, y) | opaque;
		}
		return new Uint8ClampedArray(out.buffer);
	});

export const thumbnails: JobKind<ThumbnailsWork, Thumbnails> = {
	job: 'thumbnails',
	begin:
		({ kernels }) =>
		(work) =>
			thumbnailsIn(kernels.heap, work),
	handsOver: (made) => made.map(({ buffer }) => buffer),
};
