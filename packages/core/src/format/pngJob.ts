import type { JobKind, Work } from '../jobs/index.ts';
import type { Picture } from '../surface/index.ts';
import { pictureAsPng } from './plan.ts';

/** Writes a picture as PNG. */
export interface PngWork extends Work<Uint8Array<ArrayBuffer>> {
	readonly job: 'png';
	readonly picture: Picture;
}

export const pngJob: JobKind<PngWork, Uint8Array<ArrayBuffer>> = {
	job: 'png',
	begin:
		({ codecs }) =>
		async (work) =>
			pictureAsPng(await codecs.png(), work.picture),
	handsOver: ({ buffer }) => [buffer],
};
