import { emptyMask, labOf, type Packed, type TexelMask } from '../pixel/index.ts';
import type { Rect } from '../raster/index.ts';
import type { Picture } from '../surface/index.ts';

/** Texels as words, RGBA8. */
export const wordsOf = ({ data }: Picture): Uint32Array =>
	new Uint32Array(data.buffer, data.byteOffset, data.byteLength / 4);

/** The texels that are there: alpha of a half or more. */
export function heldIn(picture: Picture): TexelMask {
	const out = emptyMask(picture.width, picture.height);
	wordsOf(picture).forEach((word, i) => {
		if (word >>> 24 >= 128) out.data[i] = 1;
	});
	return out;
}

/** The smallest rectangle around the texels of a mask; null where there are none. */
export function boxOf({ width, data }: TexelMask): Rect | null {
	let [x0, y0, x1, y1] = [Infinity, Infinity, -1, -1];
	data.forEach((v, i) => {
		if (!v) return;
		const [x, y] = [i % width, Math.floor(i / width)];
		[x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
	});
	return x1 < 0 ? null : { x: x0, y: y0, width: x1 - x0 + 1, height: y1 - y0 + 1 };
}

/** The texels of a picture that a mask and a question take in. */
export function masked(picture: Picture, is: (word: number, i: number) => boolean): TexelMask {
	const out = emptyMask(picture.width, picture.height);
	wordsOf(picture).forEach((word, i) => {
		if (is(word, i)) out.data[i] = 1;
	});
	return out;
}

/** Lightness 0..1 (OKLab) of each texel of a mask, in order from dark to light. */
export function lightnessIn(picture: Picture, mask: TexelMask): number[] {
	const words = wordsOf(picture);
	const out: number[] = [];
	mask.data.forEach((v, i) => {
		if (v) out.push(labOf((words[i] as number) & 0xffffff)[0]);
	});
	return out.sort((a, b) => a - b);
}

export const mean = (list: readonly number[]): number => list.reduce((sum, v) => sum + v, 0) / (list.length || 1);

/** How many texels of a picture have each colour. */
export function countsOf(picture: Picture): Map<Packed, number> {
	const counts = new Map<Packed, number>();
	for (const word of wordsOf(picture))
		if (word >>> 24) counts.set(word & 0xffffff, (counts.get(word & 0xffffff) ?? 0) + 1);
	return counts;
}

export const many = (count: number, one: string, more = `${one}s`): string => `${count} ${count === 1 ? one : more}`;
