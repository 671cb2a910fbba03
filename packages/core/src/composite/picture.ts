import type { Kernels } from '@eppu/kernels';
import { type Picture, TILE, tileBytes, tileIntoPicture } from '../surface/index.ts';
import type { Compositor, StackLayer } from './program.ts';

/** All of a stack as one picture. */
export function pictureOfStack(
	{ heap }: Kernels,
	compositor: Compositor,
	stack: readonly StackLayer[],
	width: number,
	height: number,
): Picture {
	const picture = { width, height, data: new Uint8Array(width * height * 4) };
	const bytes = tileBytes('color');
	const out = heap.alloc(bytes);
	const tiles = Math.ceil(width / TILE) * Math.ceil(height / TILE);
	for (let tile = 0; tile < tiles; tile++) {
		compositor.tile(stack, tile, out);
		tileIntoPicture(heap.u8.subarray(out, out + bytes), picture, tile);
	}
	heap.free(out, bytes);
	return picture;
}
