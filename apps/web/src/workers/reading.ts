import type { Pool, ReadPngWork } from '@eppu/core/jobs';
import { type Pictures, picturesIn } from '@eppu/core/openraster';
import type { PngReader, ReadPng } from '@eppu/kernels';
import { codecs } from '../server/codecs.ts';
import { AFTER } from './writing.ts';

/** PNGs from elsewhere, read by others while this thread goes on; what nobody could read is not among them. */
async function readBeside<Key>(pool: Pool, pngs: Iterable<readonly [Key, Uint8Array]>): Promise<Map<Key, ReadPng>> {
	const found = new Map<Key, ReadPng>();
	await Promise.all(
		[...pngs].map(async ([key, bytes]) => {
			const picture = await pool.do({ job: 'read-png', bytes } as ReadPngWork, AFTER);
			if (picture) found.set(key, picture);
		}),
	);
	return found;
}

/** Bytes of pictures that are remembered from one saving to the next. */
const MOST_REMEMBERED = 192 * 1024 * 1024;
let remembered: Pictures = new Map();

/** Forgets the pictures of savings: another project is opened. */
export const forgetPictures = (): void => {
	remembered = new Map();
};

/**
 * The pictures of several savings of a file of layers; `merged` has what all of it looks like as well. Most of a saving
 * is as it was in the one before: only what is new in it is read.
 */
export async function picturesBeside(
	pool: Pool | null,
	savings: readonly Uint8Array[],
	name: string,
	merged: boolean,
): Promise<Pictures> {
	if (!pool) return new Map();
	const wanted = new Map(savings.flatMap((bytes) => [...picturesIn(bytes, name, merged, remembered)]));
	const before = [...remembered].filter(([key]) => wanted.has(key));
	const anew = [...wanted].flatMap(([key, bytes]) => (bytes ? [[key, bytes] as const] : []));
	const all = new Map([...before, ...(await readBeside(pool, anew))]);
	let room = MOST_REMEMBERED;
	remembered = new Map([...all].filter(([, { data }]) => (room -= data.byteLength) >= 0));
	return all;
}

/** A reader that has these files read already. */
export async function readerBeside(pool: Pool | null, files: readonly Uint8Array[]): Promise<PngReader> {
	const read = await codecs.readPng();
	if (!pool) return read;
	const found = await readBeside(
		pool,
		files.map((bytes) => [bytes, bytes] as const),
	);
	return (bytes) => found.get(bytes) ?? read(bytes);
}
