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

/** How a ramp goes from colour to colour. */
export interface RampSpec {
	/** Two or three, dark to light or light to dark. */
	readonly through: readonly Hex[];
	readonly count: number;
	/** Degrees by which the hue swings: the dark end one way, the light end the other, the middle stays. */
	readonly shift: number;
	/** How much livelier the middle is than the ends, -1..1 of its chroma. */
	readonly lively: number;
}

/**
 * A ramp of `count` colours through two or three in OKLCH: lightness and chroma go straight from one to the next, hue the
 * shorter way round; a grey takes the hue of what it goes to.
 */
export function shiftedRamp({ through, count, shift, lively }: RampSpec): Hex[] {
	const stops = through.map(oklchOfHex);
	const colored = stops.find(({ c }) => c > 0.01);
	const at = stops.map((stop) => (stop.c > 0.01 || !colored ? stop : { ...stop, h: colored.h }));
	return Array.from({ length: count }, (_, i) => {
		const t = count > 1 ? i / (count - 1) : 0.5;
		const place = t * (at.length - 1);
		const k = Math.min(at.length - 2, Math.floor(place));
		const [a, b] = [at[Math.max(0, k)], at[k + 1] ?? at[0]] as [(typeof at)[number], (typeof at)[number]];
		const part = place - Math.max(0, k);
		const turn = ((((b.h - a.h + 180) % 360) + 360) % 360) - 180;
		const middle = 1 - (2 * t - 1) ** 2;
		return hexOfOklch({
			l: a.l + (b.l - a.l) * part,
			c: Math.max(0, (a.c + (b.c - a.c) * part) * (1 + lively * middle)),
			h: (a.h + turn * part + shift * (2 * t - 1) + 720) % 360,
		});
	});
}
