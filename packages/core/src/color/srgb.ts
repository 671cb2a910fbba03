/** An 8-bit sRGB colour without alpha, written #rrggbb in lower case. */
export type Hex = string;

/** Red, green, blue as 0..255. */
export type Rgb8 = readonly [number, number, number];

/** Red, green, blue of a hex colour; throws RangeError where it is not #rrggbb. */
export function rgbOfHex(hex: Hex): Rgb8 {
	if (!/^#[0-9a-f]{6}$/i.test(hex)) throw new RangeError(`"${hex}" is not a colour of the form #rrggbb.`);
	const n = Number.parseInt(hex.slice(1), 16);
	return [n >> 16, (n >> 8) & 255, n & 255];
}

/** Hex of red, green, blue, each rounded and held within 0..255. */
export function hexOfRgb(rgb: readonly number[]): Hex {
	const byte = (v = 0): string =>
		Math.min(255, Math.max(0, Math.round(v)))
			.toString(16)
			.padStart(2, '0');
	return `#${byte(rgb[0])}${byte(rgb[1])}${byte(rgb[2])}`;
}

/**
 * How light a colour is in tones, 0..255 as its channels are: W3C Compositing and Blending Level 1, "Lum". A mask takes
 * a colour by this, as the luminosity modes do.
 */
export const luma = (r: number, g: number, b: number): number => 0.3 * r + 0.59 * g + 0.11 * b;

/** sRGB transfer, encoded 0..1 to linear light 0..1 (IEC 61966-2-1). */
export const linearOfSrgb = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);

/** Linear light 0..1 to encoded sRGB 0..1 (IEC 61966-2-1); negative values mirror. */
export const srgbOfLinear = (v: number): number => {
	const a = Math.abs(v);
	return Math.sign(v) * (a <= 0.0031308 ? 12.92 * a : 1.055 * a ** (1 / 2.4) - 0.055);
};
