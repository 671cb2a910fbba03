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
