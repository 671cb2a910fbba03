import { inflateTexels, joined } from '../surface/index.ts';
import type { JobKind, Work } from './kind.ts';

/** Inflates tiles that lie one after the other in bytes. */
export interface InflateWork extends Work<Inflated> {
	readonly job: 'inflate';
	readonly bytes: Uint8Array<ArrayBuffer>;
	readonly lengths: readonly number[];
}

/** The tiles' texels, one after the other again. */
export interface Inflated {
	readonly bytes: Uint8Array<ArrayBuffer>;
	readonly lengths: readonly number[];
}

/** Bytes one after the other, and how long each is. */
export const joinedBytes = (parts: readonly Uint8Array[]): Inflated => ({
	bytes: joined(parts),
	lengths: parts.map(({ length }) => length),
});

/** The parts of joined bytes: views, not copies. */
export function partsOfBytes({ bytes, lengths }: Inflated): Uint8Array<ArrayBuffer>[] {
	let at = 0;
	return lengths.map((length) => bytes.subarray(at, (at += length)));
}

export const inflate: JobKind<InflateWork, Inflated> = {
	job: 'inflate',
	begin: () => (work) => joinedBytes(partsOfBytes(work).map(inflateTexels)),
	handsOver: ({ bytes }) => [bytes.buffer],
};
