/**
 * Chance that repeats: the same seed, number and channel give the same value 0..1 in any host. Source of the mixing
 * step: C. Wellons, "Prospecting for Hash Functions" (2018), lowbias32.
 */
export function chance(seed: number, number: number, channel: number): number {
	let h = (Math.imul(seed, 0x9e3779b1) ^ Math.imul(number + 1, 0x85ebca6b) ^ Math.imul(channel + 1, 0xc2b2ae35)) >>> 0;
	h = Math.imul(h ^ (h >>> 16), 0x7feb352d);
	h = Math.imul(h ^ (h >>> 15), 0x846ca68b);
	return ((h ^ (h >>> 16)) >>> 0) / 4294967296;
}
