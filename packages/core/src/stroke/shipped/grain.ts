import { chance } from '../chance.ts';

/** Hash noise 0..1 of a knot of a lattice that repeats every `wrap` knots. */
const knot = (seed: number, x: number, y: number, wrap: number): number =>
	chance(seed, (((y % wrap) + wrap) % wrap) * wrap + (((x % wrap) + wrap) % wrap), 0);

export const ease = (t: number): number => t * t * (3 - 2 * t);
export const clamp = (v: number): number => Math.max(0, Math.min(1, v));
/** 0 below a, 1 above b, smooth between. */
export const step = (a: number, b: number, v: number): number => ease(clamp((v - a) / (b - a)));
export const mix = (a: number, b: number, t: number): number => a + (b - a) * t;

/** Smooth noise 0..1 at x, y in lattice units; repeats every `wrap`. */
export function noise(seed: number, x: number, y: number, wrap: number): number {
	const [ix, iy] = [Math.floor(x), Math.floor(y)];
	const [s, t] = [ease(x - ix), ease(y - iy)];
	return mix(
		mix(knot(seed, ix, iy, wrap), knot(seed, ix + 1, iy, wrap), s),
		mix(knot(seed, ix, iy + 1, wrap), knot(seed, ix + 1, iy + 1, wrap), s),
		t,
	);
}

/** Octaves of noise, each twice as fine and half as strong; u, v 0..1 repeat. `cells` is the coarsest lattice. */
export function clouds(seed: number, u: number, v: number, cells: number, octaves = 4): number {
	let sum = 0;
	let all = 0;
	for (let o = 0, f = cells, w = 1; o < octaves; o++, f *= 2, w /= 2) {
		sum += w * noise(seed + o * 101, u * f, v * f, f);
		all += w;
	}
	return sum / all;
}

/**
 * Distance to the nearest of one jittered point a cell, and a value of that point's own; u, v 0..1 repeat.
 * Source: S. Worley, "A Cellular Texture Basis Function" (1996).
 */
export function cellular(
	seed: number,
	u: number,
	v: number,
	cells: number,
): { readonly far: number; readonly own: number } {
	const [x, y] = [u * cells, v * cells];
	const [ix, iy] = [Math.floor(x), Math.floor(y)];
	let far = Infinity;
	let own = 0;
	for (let dy = -1; dy <= 1; dy++)
		for (let dx = -1; dx <= 1; dx++) {
			const [cx, cy] = [ix + dx, iy + dy];
			const px = cx + knot(seed, cx, cy, cells);
			const py = cy + knot(seed + 7, cx, cy, cells);
			const d = Math.sqrt((x - px) ** 2 + (y - py) ** 2);
			if (d < far) {
				far = d;
				own = knot(seed + 13, cx, cy, cells);
			}
		}
	return { far, own };
}
