import { luma, rgbOfHex } from '../color/index.ts';
import { resized } from '../format/index.ts';
import type { Picture } from '../surface/index.ts';
import type { TextureOrder } from './order.ts';
import { spread } from './spread.ts';

/** The size of what is written of a picture: `side` texels on its longer side, 0 for its own. */
export function sizeBy(
	{ width, height }: { readonly width: number; readonly height: number },
	side: number,
): { readonly width: number; readonly height: number } {
	if (side === 0) return { width, height };
	const by = side / Math.max(width, height);
	return { width: Math.max(1, Math.round(width * by)), height: Math.max(1, Math.round(height * by)) };
}

/**
 * A picture as it is to be written: bled at its own size, then at the size asked for, then with its alpha as the order
 * says. Pixel sheets keep whole texels at any size.
 */
export function readyPicture(
	picture: Picture,
	order: TextureOrder,
	size: { readonly width: number; readonly height: number },
	pixel: boolean,
): Picture {
	const { channels, bleed, ground, premultiplied } = order;
	const alpha = channels === 'rgba' || channels === 'indexed';
	const bled = bleed === 0 ? picture : spread(picture, bleed, !alpha);
	const sized = resized(bled, size.width, size.height, pixel ? 'nearest' : 'area');
	if (alpha && !premultiplied) return sized;
	const data = sized.data === picture.data ? sized.data.slice() : sized.data;
	const [r, g, b] = alpha ? [0, 0, 0] : rgbOfHex(ground);
	for (let i = 0; i < data.length; i += 4) {
		const a = data[i + 3] as number;
		if (a < 255) {
			const over = (v: number, under: number): number => Math.round((v * a + under * (255 - a)) / 255);
			data[i] = over(data[i] as number, r);
			data[i + 1] = over(data[i + 1] as number, g);
			data[i + 2] = over(data[i + 2] as number, b);
			if (!alpha) data[i + 3] = 255;
		}
		if (channels === 'gray') {
			const tone = Math.round(luma(data[i] as number, data[i + 1] as number, data[i + 2] as number));
			data.fill(tone, i, i + 3);
		}
	}
	return { ...size, data };
}
