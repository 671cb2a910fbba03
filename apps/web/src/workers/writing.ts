import { type PictureWriter, type Plan, pictureWriter } from '@eppu/core/format';
import type { Pool } from '@eppu/core/jobs';
import { codecs } from '../server/codecs.ts';

/** What is handed off is made after what is shown. */
export const AFTER = 2;
/** Bytes of pictures that may wait for hands at once; what is more is written here. */
const MOST_WAITING = 512 * 1024 * 1024;

/** Pictures are written by others while this thread goes on; without others, here. */
export function writerBeside(pool: Pool | null): PictureWriter {
	const here = pictureWriter(codecs);
	let waiting = 0;
	return async (work) => {
		if (!pool || waiting >= MOST_WAITING) return here(work);
		const { picture } = work;
		const { byteLength } = 'numbers' in picture ? picture.numbers : picture.data;
		waiting += byteLength;
		const made = await pool.do(work, AFTER);
		waiting -= byteLength;
		return made ?? here(work);
	};
}

/** A planned file, whose pictures others write. */
export async function writtenBeside<T>(pool: Pool | null, plan: Plan<T>): Promise<T> {
	const write = writerBeside(pool);
	const pngs: Promise<Uint8Array>[] = [];
	const finish = plan((picture) => pngs.push(write({ job: 'picture', picture })) - 1);
	return finish(await Promise.all(pngs));
}
