import { createCompositor, type StackLayer } from '../composite/index.ts';
import { tileBytes } from '../surface/index.ts';
import type { JobKind, Work } from './kind.ts';

/** Composites tiles of a stack. Its surfaces say where their tiles lie in the memory. */
export interface CompositeWork extends Work<Uint8Array<ArrayBuffer>> {
	readonly job: 'composite';
	readonly layers: readonly StackLayer[];
	readonly tiles: readonly number[];
}

export const composite: JobKind<CompositeWork, Uint8Array<ArrayBuffer>> = {
	job: 'composite',
	begin({ kernels }) {
		const compositor = createCompositor(kernels);
		const bytes = tileBytes('color');
		const out = kernels.heap.alloc(bytes);
		return ({ layers, tiles }) => {
			const data = new Uint8Array(tiles.length * bytes);
			tiles.forEach((tile, i) => {
				compositor.tile(layers, tile, out);
				data.set(kernels.heap.u8.subarray(out, out + bytes), i * bytes);
			});
			return data;
		};
	},
	handsOver: (data) => [data.buffer],
};
