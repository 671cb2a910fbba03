/** A value 0..1 for a lattice place and a seed. Source of the mixing step: C. Wellons, lowbias32 (2018). */
export const latticeValue = (x: number, y: number, z: number, seed: number): number =>
	stirred(
		Math.imul(x, 0x9e3779b1) ^ Math.imul(y, 0x85ebca6b) ^ Math.imul(z, 0xc2b2ae35) ^ Math.imul(seed + 1, 0x27d4eb2f),
	);

function stirred(mixed: number): number {
	let h = mixed >>> 0;
	h = Math.imul(h ^ (h >>> 16), 0x7feb352d);
	h = Math.imul(h ^ (h >>> 15), 0x846ca68b);
	return ((h ^ (h >>> 16)) >>> 0) * (1 / 4294967296);
}

const ease = (t: number): number => t * t * t * (t * (6 * t - 15) + 10);

/** Smooth value noise in space, 0..1, one value a unit (after K. Perlin's fade, "Improving Noise", 2002). */
export function noiseAt(x: number, y: number, z: number, seed: number): number {
	const ix = Math.floor(x);
	const iy = Math.floor(y);
	const iz = Math.floor(z);
	const tx = ease(x - ix);
	const ty = ease(y - iy);
	const tz = ease(z - iz);
	// What the corners share of the mixing is made once.
	const s = Math.imul(seed + 1, 0x27d4eb2f);
	const x0 = Math.imul(ix, 0x9e3779b1);
	const x1 = Math.imul(ix + 1, 0x9e3779b1);
	const y0 = Math.imul(iy, 0x85ebca6b);
	const y1 = Math.imul(iy + 1, 0x85ebca6b);
	const z0 = Math.imul(iz, 0xc2b2ae35) ^ s;
	const z1 = Math.imul(iz + 1, 0xc2b2ae35) ^ s;
	const a = stirred(x0 ^ y0 ^ z0);
	const b = stirred(x1 ^ y0 ^ z0);
	const c = stirred(x0 ^ y1 ^ z0);
	const d = stirred(x1 ^ y1 ^ z0);
	const e = stirred(x0 ^ y0 ^ z1);
	const f = stirred(x1 ^ y0 ^ z1);
	const g = stirred(x0 ^ y1 ^ z1);
	const h = stirred(x1 ^ y1 ^ z1);
	const near = a + (b - a) * tx + (c + (d - c) * tx - a - (b - a) * tx) * ty;
	const far = e + (f - e) * tx + (g + (h - g) * tx - e - (f - e) * tx) * ty;
	return near + (far - near) * tz;
}

/** Octaves of noise, each twice as fine and `rough` as strong, 0..1. */
export function cloudsAt(x: number, y: number, z: number, seed: number, octaves: number, rough: number): number {
	let [sum, weight, all] = [0, 1, 0];
	for (let k = 0, f = 1; k < octaves; k++, f *= 2) {
		sum += weight * noiseAt(x * f, y * f, z * f, seed + k * 101);
		all += weight;
		weight *= rough;
	}
	return sum / all;
}
