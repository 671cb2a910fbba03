import { type Hex, rgbOfHex } from '../../color/index.ts';
import type { Picture } from '../../surface/index.ts';

const MOST = 256;

/** A picture as places in a palette. */
export interface IndexedPicture {
	readonly data: Uint8Array;
	/** RGBA8 of each place. */
	readonly colors: Uint8Array;
}

/**
 * A picture as places in a palette: the colours given first in their order, used or not, then others as they come, clear
 * texels as one. Where there are more than 256, how many.
 */
export function indexedPicture({ data, width, height }: Picture, palette: readonly Hex[]): IndexedPicture | number {
	const places = new Map<number, number>();
	const texels = new Uint32Array(width * height);
	for (let i = 0; i < texels.length; i++) {
		const o = i * 4;
		const alpha = data[o + 3] as number;
		texels[i] = alpha
			? ((data[o] as number) | ((data[o + 1] as number) << 8) | ((data[o + 2] as number) << 16) | (alpha << 24)) >>> 0
			: 0;
	}
	const used = new Set(texels);
	const kept = [...new Set(palette.map(rgbOfHex).map(([r, g, b]) => (r | (g << 8) | (b << 16) | (255 << 24)) >>> 0))];
	const more = [...used].filter((texel) => !kept.includes(texel));
	// A palette that leaves no room gives way to what the picture has.
	const first = kept.length + more.length <= MOST ? kept : kept.filter((color) => used.has(color));
	for (const color of [...first, ...more]) places.set(color, places.size);
	if (places.size > MOST) return used.size;
	return {
		data: Uint8Array.from(texels, (texel) => places.get(texel) as number),
		colors: new Uint8Array(Uint32Array.from(places.keys()).buffer),
	};
}
