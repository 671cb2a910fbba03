import type { FileKind } from './kind.ts';

export const webp: FileKind = {
	kind: 'webp',
	words: 'WebP',
	ending: 'webp',
	mime: 'image/webp',
	channels: ['rgba', 'rgb'],
	lossy: true,
	most: 16383,
	write: ({ webp: write }, { data, width, height }, { quality }) => write(data, width, height, quality),
};
