import { hexOfOklch, oklabOfSrgb, oklchOfHex, srgbOfOklab } from './oklch.ts';
import { type Hex, hexOfRgb, rgbOfHex } from './srgb.ts';

/** `count` colours from one to the other, evenly spaced in OKLab; both ends are among them. */
export function ramp(from: Hex, to: Hex, count: number): Hex[] {
	const [a, b] = [from, to].map((hex) => {
		const [r, g, bl] = rgbOfHex(hex);
		return oklabOfSrgb(r / 255, g / 255, bl / 255);
	}) as unknown as [readonly number[], readonly number[]];
	return Array.from({ length: count }, (_, i) => {
		const t = count > 1 ? i / (count - 1) : 0;
		const lab = [0, 1, 2].map((k) => (a[k] as number) + ((b[k] as number) - (a[k] as number)) * t);
		return hexOfRgb(srgbOfOklab(lab as unknown as [number, number, number]).map((v) => v * 255));
	});
}

/** A tone chart: `count` lightness steps from black to white, evenly spaced as the eye has it, in a colour's own hue. */
export function toneChart(
	color: Hex,
	count: number,
): { readonly grey: Hex; readonly tinted: Hex; readonly l: number }[] {
	const { c, h } = oklchOfHex(color);
	return Array.from({ length: count }, (_, i) => {
		const l = count > 1 ? i / (count - 1) : 0;
		return { l, grey: hexOfOklch({ l, c: 0, h: 0 }), tinted: hexOfOklch({ l, c, h }) };
	});
}
