import type { Codecs, JobKind, Work } from '../jobs/index.ts';
import type { Picture } from '../surface/index.ts';
import { type Numbers, pictureAsPng } from './png.ts';

/** Writes a picture as PNG; or as WebP of a quality up to 100, with loss. */
export interface PictureWork extends Work<Uint8Array<ArrayBuffer>> {
	readonly job: 'picture';
	readonly picture: Picture | Numbers;
	readonly webp?: number;
}

/** Whoever writes pictures as files: this thread, or others. */
export type PictureWriter = (work: PictureWork) => Promise<Uint8Array<ArrayBuffer>>;

/** Writes on this thread. */
export const pictureWriter =
	(codecs: Pick<Codecs, 'png' | 'webp'>): PictureWriter =>
	async ({ picture, webp }) =>
		webp === undefined || 'numbers' in picture
			? pictureAsPng(await codecs.png(), picture)
			: new Uint8Array((await codecs.webp())(picture.data, picture.width, picture.height, webp));

export const pictureJob: JobKind<PictureWork, Uint8Array<ArrayBuffer>> = {
	job: 'picture',
	begin: ({ codecs }) => pictureWriter(codecs),
	handsOver: ({ buffer }) => [buffer],
};
