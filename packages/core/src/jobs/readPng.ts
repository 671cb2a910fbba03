import type { ReadPng } from '@eppu/kernels';
import type { JobKind, Work } from './kind.ts';

/** Reads a PNG; null where it is none. */
export interface ReadPngWork extends Work<ReadPng | null> {
	readonly job: 'read-png';
	readonly bytes: Uint8Array;
}

export const readPng: JobKind<ReadPngWork, ReadPng | null> = {
	job: 'read-png',
	begin:
		({ codecs }) =>
		async ({ bytes }) => {
			const read = await codecs.readPng();
			try {
				return read(bytes);
			} catch {
				// Whoever asked reads it again, and says what it is of.
				return null;
			}
		},
	handsOver: (picture) => (picture ? [picture.data.buffer] : []),
};
