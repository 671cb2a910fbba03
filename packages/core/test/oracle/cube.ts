/** Colour cubes as the kernels make them, and as plain script makes them of a change of OKLab colours. */
import type { Kernels } from '@eppu/kernels';
import { type ColorChange, CUBE_BYTES, oklabOfSrgb, putCube, srgbOfOklab } from '../../src/color/index.ts';

export const NODES = 33;

/** The nodes of a change as floats, four a node. */
export function cubeMade(kernels: Kernels, change: ColorChange): Float32Array {
	const at = kernels.heap.alloc(CUBE_BYTES);
	putCube(kernels, at, change);
	const nodes = new Float32Array(kernels.heap.u8.slice(at, at + CUBE_BYTES).buffer);
	kernels.heap.free(at, CUBE_BYTES);
	return nodes;
}

/** Red, green, blue 0..255 of one node: of what leaves sRGB by more than a thousandth, with as much chroma as fits. */
export function nodeOf(change: ColorChange, r: number, g: number, b: number): [number, number, number] {
	const [L, A, B] = change(...oklabOfSrgb(r / (NODES - 1), g / (NODES - 1), b / (NODES - 1)));
	const at = (share: number) => srgbOfOklab([L, A * share, B * share]);
	const fits = (share: number): boolean => at(share).every((v) => v >= -0.001 && v <= 1.001);
	let [low, high] = [0, 1];
	if (fits(1)) low = 1;
	else
		for (let k = 0; k < 7; k++) {
			const half = (low + high) / 2;
			if (fits(half)) low = half;
			else high = half;
		}
	return at(low).map((v) => 255 * Math.min(1, Math.max(0, v))) as [number, number, number];
}
