/** Surfaces for tests: filled texel by texel from a function, through the same writers that the rooms use. */
import type { Kernels } from '@eppu/kernels';
import { createSurface, pictureIntoSurface, type Surface } from '../../src/surface/index.ts';

let count = 0;

export function colorSurface(
	kernels: Kernels,
	width: number,
	height: number,
	f: (x: number, y: number) => readonly number[],
): Surface {
	const data = new Uint8Array(width * height * 4);
	for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) data.set(f(x, y), (y * width + x) * 4);
	const surface = createSurface(`s${count++}`, 'color', width, height);
	pictureIntoSurface(kernels, { width, height, data }, surface);
	return surface;
}

export function maskSurface(
	kernels: Kernels,
	width: number,
	height: number,
	f: (x: number, y: number) => number,
): Surface {
	const data = new Uint8Array(width * height);
	for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) data[y * width + x] = f(x, y);
	const surface = createSurface(`s${count++}`, 'mask', width, height);
	pictureIntoSurface(kernels, { width, height, data }, surface);
	return surface;
}

/** A small seeded generator (mulberry32), 0..1. */
export function seeded(seed: number): () => number {
	let a = seed >>> 0;
	return () => {
		a = (a + 0x6d2b79f5) | 0;
		let t = Math.imul(a ^ (a >>> 15), 1 | a);
		t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
		return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
	};
}
