/** A value 0..1 for a lattice place and a seed. Source of the mixing step: C. Wellons, lowbias32 (2018). */
export function latticeValue(x: number, y: number, z: number, seed: number): number {
	let h =
		(Math.imul(x, 0x9e3779b1) ^
			Math.imul(y, 0x85ebca6b) ^
			Math.imul(z, 0xc2b2ae35) ^
			Math.imul(seed + 1, 0x27d4eb2f)) >>>
		0;
	h = Math.imul(h ^ (h >>> 16), 0x7feb352d);
	h = Math.imul(h ^ (h >>> 15), 0x846ca68b);
	return ((h ^ (h >>> 16)) >>> 0) / 4294967296;
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
	let near = 0;
	let far = 0;
	for (let k = 0; k < 2; k++) {
		const a = latticeValue(ix, iy, iz + k, seed);
		const b = latticeValue(ix + 1, iy, iz + k, seed);
		const c = latticeValue(ix, iy + 1, iz + k, seed);
		const d = latticeValue(ix + 1, iy + 1, iz + k, seed);
		const top = a + (b - a) * tx;
		const low = c + (d - c) * tx;
		const v = top + (low - top) * ty;
		if (k) far = v;
		else near = v;
	}
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
