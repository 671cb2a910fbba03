import { type Oklab, oklabOfSrgb, oklchOfHex } from './oklch.ts';
import { type Hex, hexOfRgb } from './srgb.ts';

/** Bits of a channel by which colours are gathered before they are told apart. */
const BITS = 5;
/** Rounds in which the middles settle; they change little after a few. */
const ROUNDS = 12;

interface Bin {
	readonly lab: Oklab;
	/** Sums of red, green, blue, and how much of the picture they come from. */
	readonly rgb: [number, number, number];
	weight: number;
}

/** The colours of a picture by cells of the colour cube, with what shows through left out. */
function binsOf(data: Uint8Array | Uint8ClampedArray): Bin[] {
	const cells = new Map<number, { rgb: [number, number, number]; weight: number }>();
	const down = 8 - BITS;
	for (let i = 0; i < data.length; i += 4) {
		const alpha = (data[i + 3] as number) / 255;
		if (alpha < 0.5) continue;
		const [r, g, b] = [data[i] as number, data[i + 1] as number, data[i + 2] as number];
		const key = ((r >> down) << (2 * BITS)) | ((g >> down) << BITS) | (b >> down);
		const cell = cells.get(key);
		if (!cell) {
			cells.set(key, { rgb: [r * alpha, g * alpha, b * alpha], weight: alpha });
			continue;
		}
		cell.rgb[0] += r * alpha;
		cell.rgb[1] += g * alpha;
		cell.rgb[2] += b * alpha;
		cell.weight += alpha;
	}
	return [...cells.values()].map(({ rgb, weight }) => ({
		rgb,
		weight,
		lab: oklabOfSrgb(rgb[0] / weight / 255, rgb[1] / weight / 255, rgb[2] / weight / 255),
	}));
}

const apart = (a: Oklab, b: Oklab): number => (a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2 + (a[2] - b[2]) ** 2;

/**
 * Up to `count` colours that stand for a picture (RGBA8 straight alpha), dark to light: k-means in OKLab over its colour
 * cells (S. Lloyd, "Least squares quantization in PCM", 1982), each next middle begun where the picture is told worst, so
 * that small strong accents are found and the same picture gives the same colours. Fewer where it has fewer.
 */
export function colorsOfPicture(data: Uint8Array | Uint8ClampedArray, count: number): Hex[] {
	const bins = binsOf(data);
	if (bins.length === 0) return [];
	const heaviest = bins.reduce((best, bin) => (bin.weight > best.weight ? bin : best));
	let middles: Oklab[] = [heaviest.lab];
	const near = bins.map((bin) => apart(bin.lab, heaviest.lab));
	while (middles.length < Math.min(count, bins.length)) {
		// A small patch far from all others counts as a large one that is near: by the root of how much there is of it.
		const worst = near.reduce(
			(best, d, i) =>
				d * Math.sqrt((bins[i] as Bin).weight) > (near[best] as number) * Math.sqrt((bins[best] as Bin).weight)
					? i
					: best,
			0,
		);
		if ((near[worst] as number) < 1e-5) break;
		const lab = (bins[worst] as Bin).lab;
		middles.push(lab);
		bins.forEach((bin, i) => {
			near[i] = Math.min(near[i] as number, apart(bin.lab, lab));
		});
	}
	let sums: { rgb: [number, number, number]; weight: number }[] = [];
	for (let round = 0; round < ROUNDS; round++) {
		sums = middles.map(() => ({ rgb: [0, 0, 0], weight: 0 }));
		for (const { lab, rgb, weight } of bins) {
			let best = 0;
			for (let k = 1; k < middles.length; k++)
				if (apart(lab, middles[k] as Oklab) < apart(lab, middles[best] as Oklab)) best = k;
			const sum = sums[best] as (typeof sums)[number];
			for (let k = 0; k < 3; k++) sum.rgb[k] = (sum.rgb[k] as number) + (rgb[k] as number);
			sum.weight += weight;
		}
		sums = sums.filter(({ weight }) => weight > 0);
		middles = sums.map(({ rgb, weight }) =>
			oklabOfSrgb(rgb[0] / weight / 255, rgb[1] / weight / 255, rgb[2] / weight / 255),
		);
	}
	const found = new Set(sums.map(({ rgb, weight }) => hexOfRgb(rgb.map((v) => v / weight))));
	return [...found].sort((a, b) => oklchOfHex(a).l - oklchOfHex(b).l);
}
