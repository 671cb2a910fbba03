import { type Hex, hexOfRgb, rgbOfHex } from './srgb.ts';

/** Hue in degrees 0..360, saturation and value 0..1, of encoded sRGB. */
export interface Hsv {
	readonly h: number;
	readonly s: number;
	readonly v: number;
}

/** HSV of a hex colour; a grey has hue 0. Source: A. R. Smith, "Color Gamut Transform Pairs" (1978). */
export function hsvOfHex(hex: Hex): Hsv {
	const [r, g, b] = rgbOfHex(hex).map((v) => v / 255) as [number, number, number];
	const v = Math.max(r, g, b);
	const range = v - Math.min(r, g, b);
	if (range === 0) return { h: 0, s: 0, v };
	const sixth = v === r ? (g - b) / range : v === g ? 2 + (b - r) / range : 4 + (r - g) / range;
	return { h: (sixth * 60 + 360) % 360, s: range / v, v };
}

export function hexOfHsv({ h, s, v }: Hsv): Hex {
	const channel = (n: number): number => {
		const k = (n + h / 60) % 6;
		return 255 * (v - v * s * Math.max(0, Math.min(k, 4 - k, 1)));
	};
	return hexOfRgb([channel(5), channel(3), channel(1)]);
}
