import type { Hex } from '../color/index.ts';
import { hexOfPacked, labOf, type Packed, packedOf, pixelColors } from './colors.ts';

/** A colour and what it becomes. */
export type ColorPair = readonly [from: Hex, to: Hex];

/**
 * What each colour becomes in another palette: the nearest there by OKLab, or the one at its own place when both are put
 * in order of lightness, the ends of one on the ends of the other. What stays as it is is left out.
 */
export function colorMapping(from: readonly Hex[], to: readonly Hex[], way: 'near' | 'light'): ColorPair[] {
	if (!to.length) return [];
	if (way === 'near') {
		const colors = pixelColors({ name: 'to', colors: to });
		return kept(from.map((hex) => [hex, hexOfPacked(colors.nearest(packedOf(hex)))] as const));
	}
	const light = (hex: Hex): number => labOf(packedOf(hex))[0];
	const ordered = (list: readonly Hex[]): Hex[] => [...list].sort((a, b) => light(a) - light(b));
	const [own, other] = [ordered(from), ordered(to)];
	return kept(
		own.map((hex, i) => {
			const place = own.length > 1 ? Math.round((i * (other.length - 1)) / (own.length - 1)) : 0;
			return [hex, other[place] as Hex] as const;
		}),
	);
}

const kept = (pairs: readonly ColorPair[]): ColorPair[] => pairs.filter(([from, to]) => from !== to);

/** Colours of a picture (RGBA8), r | g << 8 | b << 16, by how many texels have them, the most first; and how many are neither there nor gone. */
export function colorsOfTexels(data: Uint8Array | Uint8ClampedArray): {
	readonly colors: readonly (readonly [color: Packed, texels: number])[];
	readonly half: number;
} {
	const words = new Uint32Array(data.buffer, data.byteOffset, data.length / 4);
	const counts = new Map<Packed, number>();
	let half = 0;
	for (const word of words) {
		const alpha = word >>> 24;
		if (alpha === 0) continue;
		if (alpha < 255) half++;
		counts.set(word & 0xffffff, (counts.get(word & 0xffffff) ?? 0) + 1);
	}
	return { colors: [...counts].sort((a, b) => b[1] - a[1]), half };
}
