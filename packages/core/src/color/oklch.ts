import { type Hex, hexOfRgb, linearOfSrgb, rgbOfHex, srgbOfLinear } from './srgb.ts';

/** OKLCH: lightness 0..1, chroma 0..about 0.37 within sRGB, hue in degrees 0..360. */
export interface Oklch {
	readonly l: number;
	readonly c: number;
	readonly h: number;
}

/** OKLab: lightness 0..1, a green to red, b blue to yellow. */
export type Oklab = readonly [number, number, number];

/** OKLab of an encoded sRGB colour, channels 0..1. Source: B. Ottosson, "A perceptual color space" (2020). */
export function oklabOfSrgb(red: number, green: number, blue: number): Oklab {
	const [r, g, b] = [linearOfSrgb(red), linearOfSrgb(green), linearOfSrgb(blue)];
	const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
	const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
	const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
	return [
		0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
		1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
		0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
	];
}

/** Encoded sRGB, channels 0..1 or beyond where the colour lies outside the gamut, of an OKLab colour. */
export function srgbOfOklab([L, a, b]: Oklab): [number, number, number] {
	const l = (L + 0.3963377774 * a + 0.2158037573 * b) ** 3;
	const m = (L - 0.1055613458 * a - 0.0638541728 * b) ** 3;
	const s = (L - 0.0894841775 * a - 1.291485548 * b) ** 3;
	return [
		srgbOfLinear(4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s),
		srgbOfLinear(-1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s),
		srgbOfLinear(-0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s),
	];
}

/** OKLCH of a hex colour; the hue of a grey is 0. */
export function oklchOfHex(hex: Hex): Oklch {
	const [r, g, b] = rgbOfHex(hex);
	const [l, a, bb] = oklabOfSrgb(r / 255, g / 255, b / 255);
	const c = Math.sqrt(a * a + bb * bb);
	return { l, c, h: c < 1e-4 ? 0 : ((Math.atan2(bb, a) * 180) / Math.PI + 360) % 360 };
}

/** Whether an OKLCH colour lies within sRGB, to within half an 8-bit step. */
export function inSrgb(color: Oklch): boolean {
	return srgbOfOklch(color).every((v) => v >= -0.002 && v <= 1.002);
}

const srgbOfOklch = ({ l, c, h }: Oklch): [number, number, number] => {
	const turn = (h * Math.PI) / 180;
	return srgbOfOklab([l, c * Math.cos(turn), c * Math.sin(turn)]);
};

/** Hex of an OKLCH colour; what lies outside sRGB loses chroma, keeping lightness and hue, until it fits. */
export function hexOfOklch(color: Oklch): Hex {
	let { c } = color;
	if (!inSrgb(color)) {
		let low = 0;
		let high = c;
		for (let i = 0; i < 20; i++) {
			c = (low + high) / 2;
			if (inSrgb({ ...color, c })) low = c;
			else high = c;
		}
		c = low;
	}
	return hexOfRgb(srgbOfOklch({ ...color, c }).map((v) => v * 255));
}

/** Distance of two colours in OKLab times 100: 1 is about what the eye tells apart. */
export function distance(one: Hex, other: Hex): number {
	const [a, b] = [rgbOfHex(one), rgbOfHex(other)].map(([r, g, bl]) => oklabOfSrgb(r / 255, g / 255, bl / 255));
	return 100 * Math.sqrt((a as Oklab).reduce((sum, v, i) => sum + (v - ((b as Oklab)[i] ?? 0)) ** 2, 0));
}
