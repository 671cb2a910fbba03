import { type Plan, type PngWork, pictureAsPng } from '@eppu/core/format';
import type { Pool } from '@eppu/core/jobs';
import { codecs } from '../server/codecs.ts';

/** What is handed off is made after what is shown. */
export const AFTER = 2;
/** Bytes of pictures that may wait for hands at once; what is more is written here. */
const MOST_WAITING = 512 * 1024 * 1024;

/** A planned file, whose pictures others write while this thread goes on; without others they are written here. */
export async function writtenBeside<T>(pool: Pool | null, plan: Plan<T>): Promise<T> {
	const write = await codecs.png();
	let waiting = 0;
	const pngs: (Uint8Array | Promise<Uint8Array>)[] = [];
	const beside = async (to: Pool, work: PngWork): Promise<Uint8Array> => {
		const { length } = work.picture.data;
		waiting += length;
		const made = await to.do(work, AFTER);
		waiting -= length;
		return made ?? pictureAsPng(write, work.picture);
	};
	const finish = plan(
		(picture) =>
			pngs.push(pool && waiting < MOST_WAITING ? beside(pool, { job: 'png', picture }) : pictureAsPng(write, picture)) -
			1,
	);
	return finish(await Promise.all(pngs));
}
