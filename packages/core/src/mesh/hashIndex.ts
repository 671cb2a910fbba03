/** A whole number spread over 32 bits: the finalizer of MurmurHash3 (A. Appleby, public domain). */
export function mixed(n: number): number {
	let h = n | 0;
	h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
	h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
	return h ^ (h >>> 16);
}

/**
 * Finds equals among so many things, named by their numbers: the answer is the first that was asked for and is the same,
 * or the thing itself where it is the first. Plain arrays, since models have hundreds of thousands of corners.
 */
export function createIndex(
	count: number,
	hash: (i: number) => number,
): (i: number, same: (i: number, j: number) => boolean) => number {
	let size = 16;
	while (size < count * 2) size *= 2;
	const slots = new Int32Array(size).fill(-1);
	return (i, same) => {
		for (let at = hash(i) & (size - 1); ; at = (at + 1) & (size - 1)) {
			const known = slots[at] as number;
			if (known < 0) {
				slots[at] = i;
				return i;
			}
			if (same(i, known)) return known;
		}
	};
}
