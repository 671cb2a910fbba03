import type { Hex } from '../color/index.ts';
import type { JobKind, Work } from '../jobs/index.ts';
import type { Picture } from '../surface/index.ts';
import { fileKindOf, OrderError, type Writers } from './file/index.ts';
import type { TextureOrder } from './order.ts';
import { readyPicture } from './ready.ts';

/** The bytes of a file, or why there are none, in words for the artist. */
export type WrittenTexture = { readonly bytes: Uint8Array<ArrayBuffer> } | { readonly problem: string };

/** Bleeds, sizes and writes a picture as an order says. */
export interface TextureWork extends Work<WrittenTexture> {
	readonly job: 'texture';
	readonly picture: Picture;
	readonly size: { readonly width: number; readonly height: number };
	readonly order: TextureOrder;
	readonly pixel: boolean;
	readonly palette: readonly Hex[];
}

/** The file. Throws OrderError where the picture does not fit it. */
export function writtenTexture(work: TextureWork, writers: Writers): Uint8Array<ArrayBuffer> {
	const { picture, size, order, pixel, palette } = work;
	return fileKindOf(order.file).write(writers, readyPicture(picture, order, size, pixel), { ...order, palette });
}

export const textureJob: JobKind<TextureWork, WrittenTexture> = {
	job: 'texture',
	begin:
		({ codecs }) =>
		async (work) => {
			const [png, webp] = await Promise.all([codecs.png(), codecs.webp()]);
			try {
				return { bytes: writtenTexture(work, { png, webp }) };
			} catch (error) {
				if (error instanceof OrderError) return { problem: error.message };
				throw error;
			}
		},
	handsOver: (made) => ('bytes' in made ? [made.bytes.buffer] : []),
};
