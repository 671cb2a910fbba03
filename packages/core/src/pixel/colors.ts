import { type Hex, hexOfRgb, type Oklab, oklabOfSrgb, type Palette, rgbOfHex } from '../color/index.ts';

/** Red, green and blue as one number: r | g << 8 | b << 16. */
export type Packed = number;

export const packedOf = (hex: Hex): Packed => {
	const [r, g, b] = rgbOfHex(hex);
	return r | (g << 8) | (b << 16);
};

export const hexOfPacked = (color: Packed): Hex => hexOfRgb([color & 255, (color >> 8) & 255, (color >> 16) & 255]);

const labs = new Map<Packed, Oklab>();
/** Colours that are remembered. */
const MOST_LABS = 65_536;

/** OKLab of a colour. */
export function labOf(color: Packed): Oklab {
	let found = labs.get(color);
	if (!found) {
		if (labs.size >= MOST_LABS) labs.clear();
		labs.set(
			color,
			(found = oklabOfSrgb((color & 255) / 255, ((color >> 8) & 255) / 255, ((color >> 16) & 255) / 255)),
		);
	}
	return found;
}

const square = (a: Oklab, b: Oklab): number => (a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2 + (a[2] - b[2]) ** 2;

/** The colours that a strict layer may hold, and the ramps that its tones go by. */
export interface PixelColors {
	readonly all: readonly Packed[];
	has(color: Packed): boolean;
	/** The nearest of all by OKLab; the colour itself where there are none. */
	nearest(color: Packed): Packed;
	/** The next lighter (1) or darker (-1) of its ramp; of a colour in no ramp the nearest of all that is so. The colour itself at the end. */
	step(color: Packed, by: 1 | -1): Packed;
}

/** A step in lightness that counts as one. */
const STEP = 0.015;

/** All colours of a palette and its ramps, and `besides` those that were named; or, with `only`, its entries. */
export function pixelColors(
	{ colors, ramps = [] }: Palette,
	{ besides = [], only }: { readonly besides?: Iterable<Packed>; readonly only?: 'entries' } = {},
): PixelColors {
	const lines = ramps.map((each) => each.colors.map(packedOf));
	const set = new Set<Packed>([...colors.map(packedOf), ...(only ? [] : [...lines.flat(), ...besides])]);
	const all = [...set];
	const near = new Map<Packed, Packed>();
	const steps = new Map<string, Packed>();
	const best = (among: readonly Packed[], cost: (lab: Oklab) => number): Packed | undefined => {
		let found: Packed | undefined;
		let least = Infinity;
		for (const each of among) {
			const now = cost(labOf(each));
			if (now < least) [found, least] = [each, now];
		}
		return found;
	};
	const stepped = (color: Packed, by: 1 | -1): Packed => {
		const line = lines.find((each) => each.includes(color) && each.every((one) => set.has(one)));
		const own = labOf(color);
		if (line) {
			const at = line.indexOf(color);
			const up = labOf(line.at(-1) as Packed)[0] >= labOf(line[0] as Packed)[0] ? by : -by;
			return line[at + up] ?? color;
		}
		const further = all.filter((each) => (labOf(each)[0] - own[0]) * by > STEP);
		// The hue counts for more than how far the step goes.
		return (
			best(further, (lab) => (lab[0] - own[0]) ** 2 + 12 * ((lab[1] - own[1]) ** 2 + (lab[2] - own[2]) ** 2)) ?? color
		);
	};
	return {
		all,
		has: (color) => set.has(color),
		nearest(color) {
			if (set.has(color)) return color;
			let found = near.get(color);
			if (found === undefined) {
				const lab = labOf(color);
				near.set(color, (found = best(all, (each) => square(each, lab)) ?? color));
			}
			return found;
		},
		step(color, by) {
			const key = `${color} ${by}`;
			let found = steps.get(key);
			if (found === undefined) steps.set(key, (found = stepped(color, by)));
			return found;
		},
	};
}

/** Every colour that is named anywhere in what an artist asked for. */
export const colorsNamed = (asked: unknown): Packed[] =>
	[...JSON.stringify(asked).matchAll(/"(#[0-9a-f]{6})"/gi)].map(([, hex]) => packedOf((hex as string).toLowerCase()));
