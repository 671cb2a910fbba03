import type { JobKind, Work } from '../jobs/index.ts';
import type { Picture } from '../surface/index.ts';
import { encodePng } from './png.ts';

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
			encodePng(await codecs.png(), work.picture),
	handsOver: ({ buffer }) => [buffer],
};
