import { encodePng, plainPng } from '../../format/index.ts';
import { indexedPicture } from './indexed.ts';
import { type FileKind, OrderError } from './kind.ts';

export const png: FileKind = {
	kind: 'png',
	words: 'PNG',
	ending: 'png',
	mime: 'image/png',
	channels: ['rgba', 'rgb', 'gray', 'indexed'],
	lossy: false,
	most: 16384,
	write(writers, picture, { channels, smaller, palette }) {
		const { width, height, data } = picture;
		const press = (bytes: Uint8Array<ArrayBuffer>): Uint8Array<ArrayBuffer> =>
			smaller && writers.press ? new Uint8Array(writers.press(bytes)) : bytes;
		if (channels === 'rgba') return press(encodePng(writers.png, picture));
		if (channels === 'indexed') {
			const found = indexedPicture(picture, palette);
			if (typeof found === 'number')
				throw new OrderError(
					`The picture has ${found} colours and alphas, and a file with a palette holds 256. Write RGBA, or bring its colours onto the palette first.`,
				);
			return plainPng('indexed', width, height, found.data, found.colors);
		}
		const count = channels === 'rgb' ? 3 : 1;
		const plain = new Uint8Array(width * height * count);
		for (let i = 0; i < width * height; i++)
			for (let k = 0; k < count; k++) plain[i * count + k] = data[i * 4 + k] as number;
		return plainPng(channels, width, height, plain);
	},
};
