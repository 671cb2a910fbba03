import { Inflate } from 'fflate';

/** Bytes given to the inflater at once: deflate makes at most 1032 of each, so that it stops soon after the most. */
const PIECE = 16 * 1024;

/**
 * Raw deflated bytes inflated, or null where they give anything but exactly `length` bytes. It stops as soon as they
 * give more: a small file must not hold the machine. Throws on bytes that are not deflated.
 */
export function inflateExactly(bytes: Uint8Array, length: number): Uint8Array<ArrayBuffer> | null {
	const out = new Uint8Array(length);
	let at = 0;
	let over = false;
	const inflate = new Inflate((piece) => {
		if (at + piece.length > length) over = true;
		else out.set(piece, at);
		at += piece.length;
	});
	for (let from = 0; from < bytes.length && !over; from += PIECE)
		inflate.push(bytes.subarray(from, from + PIECE), from + PIECE >= bytes.length);
	return over || at !== length ? null : out;
}
