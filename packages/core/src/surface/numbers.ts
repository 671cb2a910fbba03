import type { Heap, Kernels } from '@eppu/kernels';
import { createSurface, readTexels, type Surface, type SurfaceId, setTileState, settleTile } from './surface.ts';
import { TILE, TILE_TEXELS } from './tile.ts';

/** Bytes as the texels of a mask surface, tile after tile, one tile wide; what is left of the last tile is 0. */
export function surfaceOfBytes(kernels: Kernels, id: SurfaceId, bytes: Uint8Array): Surface {
	const { heap } = kernels;
	const surface = createSurface(id, 'mask', TILE, TILE * Math.ceil(bytes.length / TILE_TEXELS));
	for (let tile = 0; tile < surface.kinds.length; tile++) {
		const at = heap.alloc(TILE_TEXELS);
		const piece = bytes.subarray(tile * TILE_TEXELS, (tile + 1) * TILE_TEXELS);
		heap.u8.fill(0, at, at + TILE_TEXELS);
		heap.u8.set(piece, at);
		setTileState(surface, tile, settleTile(kernels, 'mask', at));
	}
	return surface;
}

/** The first `length` bytes that lie on such a surface. */
export function bytesOfSurface(heap: Heap, surface: Surface, length: number): Uint8Array<ArrayBuffer> {
	const out = new Uint8Array(length);
	for (let tile = 0; tile * TILE_TEXELS < length; tile++)
		out.set(readTexels(heap, surface, tile).subarray(0, length - tile * TILE_TEXELS), tile * TILE_TEXELS);
	return out;
}
