import { chance } from '../chance.ts';

const lattices = new Map<number, Float64Array>();
let lastKey = -1;
let lastLattice: Float64Array = new Float64Array(0);

/** Values 0..1 of a lattice of wrap by wrap knots; made once. */
function lattice(seed: number, wrap: number): Float64Array {
	const key = seed * 4096 + wrap;
	if (key === lastKey) return lastLattice;
	let found = lattices.get(key);
	if (!found) lattices.set(key, (found = Float64Array.from({ length: wrap * wrap }, (_, i) => chance(seed, i, 0))));
	lastKey = key;
	lastLattice = found;
	return found;
}

/** The knot at x, y, whole numbers, of a lattice that repeats every `wrap`. */
const knot = (seed: number, x: number, y: number, wrap: number): number =>
	lattice(seed, wrap)[(((y % wrap) + wrap) % wrap) * wrap + (((x % wrap) + wrap) % wrap)] as number;

export const ease = (t: number): number => t * t * (3 - 2 * t);
export const clamp = (v: number): number => Math.max(0, Math.min(1, v));
/** 0 below a, 1 above b, smooth between. */
export const step = (a: number, b: number, v: number): number => ease(clamp((v - a) / (b - a)));
export const mix = (a: number, b: number, t: number): number => a + (b - a) * t;

/** Smooth noise 0..1 at x, y in lattice units; repeats every `wrap`. */
export function noise(seed: number, x: number, y: number, wrap: number): number {
	const ix = Math.floor(x);
	const iy = Math.floor(y);
	const s = ease(x - ix);
	const values = lattice(seed, wrap);
	const x0 = ((ix % wrap) + wrap) % wrap;
	const x1 = x0 + 1 === wrap ? 0 : x0 + 1;
	const top = (((iy % wrap) + wrap) % wrap) * wrap;
	const low = top + wrap === wrap * wrap ? 0 : top + wrap;
	const a = mix(values[top + x0] as number, values[top + x1] as number, s);
	const b = mix(values[low + x0] as number, values[low + x1] as number, s);
	return mix(a, b, ease(y - iy));
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
