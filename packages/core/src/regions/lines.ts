import { squaredDistances } from '../raster/index.ts';
import type { Picture } from '../surface/index.ts';
import { type Drawn, groupsOf, outsideOf } from './groups.ts';

/** Texels along the rim that are looked at for the ground, in shares of the side. */
const RIM = 0.012;
/** Steps in which colours are counted. */
const STEP = 16;
/** Colour differences that are noise in any picture, 0..255. */
const NOISE = 6;
/** What differs from the ground by this share of what lines do is drawn: the soft side of a line is. */
const SHARE = 0.3;

/** Colours multiplied by alpha, so that what is clear is one colour: four a texel, 0..255. */
function seen({ width, height, data }: Picture): Uint8Array {
	const out = new Uint8Array(width * height * 4);
	for (let i = 0; i < out.length; i += 4) {
		const alpha = data[i + 3] as number;
		for (let k = 0; k < 3; k++) out[i + k] = Math.round(((data[i + k] as number) * alpha) / 255);
		out[i + 3] = alpha;
	}
	return out;
}

/** The colour that most of some texels have: the mean of the fullest cell of a coarse count and of those around it. */
function mostOf(colors: Uint8Array, texels: Iterable<number>): number[] {
	const counts = new Map<number, number[]>();
	for (const i of texels) {
		const key = [0, 1, 2, 3].reduce((sum, k) => sum * 17 + Math.round((colors[i * 4 + k] as number) / STEP), 0);
		const cell = counts.get(key) ?? [0, 0, 0, 0, 0];
		for (let k = 0; k < 4; k++) cell[k] = (cell[k] as number) + (colors[i * 4 + k] as number);
		cell[4] = (cell[4] as number) + 1;
		counts.set(key, cell);
	}
	const fullest = [...counts.values()].reduce((best, each) =>
		(each[4] as number) > (best[4] as number) ? each : best,
	);
	return fullest.slice(0, 4).map((sum) => sum / (fullest[4] as number));
}

function* rimOf(width: number, height: number, from: number, deep: number): Generator<number> {
	for (let y = from; y < height - from; y++)
		for (let x = from; x < width - from; x++)
			if (x < from + deep || y < from + deep || x >= width - from - deep || y >= height - from - deep)
				yield y * width + x;
}

/** How far each texel is from a colour, 0..255. */
const farFrom = (colors: Uint8Array, ground: readonly number[]): Float32Array =>
	Float32Array.from({ length: colors.length / 4 }, (_, i) => {
		let most = 0;
		for (let k = 0; k < 4; k++) most = Math.max(most, Math.abs((colors[i * 4 + k] as number) - (ground[k] as number)));
		return most;
	});

/**
 * Tells what is drawn from its ground: the ground is the colour of most of the rim; what differs from it as much as a good
 * part of what lines do is drawn, be it dark on light, light on dark, coloured, soft, or dusted by JPEG. A frame that is
 * drawn around the whole picture is no rim: the ground is what lies inside of it.
 */
export function drawnOf(picture: Picture): Drawn {
	const { width, height } = picture;
	const colors = seen(picture);
	const deep = Math.max(2, Math.round(Math.min(width, height) * RIM));
	const rim = [...rimOf(width, height, deep, deep)];
	const ground = mostOf(colors, rim);
	const raw = farFrom(colors, ground);
	const first = asDrawn(raw, rim, width, height);
	const band = bandOf(colors, first, ground[3] as number);
	if (!band) return first;
	// The soft border between two grounds is ground.
	return asDrawn(
		raw.map((_, i) => farBetween(colors, i * 4, ground, band)),
		rim,
		width,
		height,
	);
}

/** How far the colour of a texel is from those between two colours, 0..255. */
function farBetween(colors: Uint8Array, at: number, one: readonly number[], other: readonly number[]): number {
	let [along, length] = [0, 0];
	for (let k = 0; k < 4; k++) {
		const way = (other[k] as number) - (one[k] as number);
		along += way * ((colors[at + k] as number) - (one[k] as number));
		length += way * way;
	}
	const t = Math.max(0, Math.min(1, along / (length || 1)));
	let most = 0;
	for (let k = 0; k < 4; k++) {
		const near = (one[k] as number) + t * ((other[k] as number) - (one[k] as number));
		most = Math.max(most, Math.abs((colors[at + k] as number) - near));
	}
	return most;
}

/** What is drawn, where it is known how far each texel is from the ground. */
function asDrawn(raw: Float32Array, rim: readonly number[], width: number, height: number): Drawn {
	// How much the ground itself varies, and how far from it what is clearly drawn is.
	const still = Float32Array.from(rim, (i) => raw[i] as number).sort();
	const noise = Math.max(NOISE, 2.5 * (still[Math.floor(still.length * 0.6)] as number));
	const clear = raw.filter((v) => v > noise * 2).sort();
	const line = clear.length ? (clear[Math.floor(clear.length * 0.8)] as number) : 255;
	return {
		width,
		height,
		far: raw.map((v) => Math.min(1, v / line)),
		least: Math.min(0.9, Math.max(SHARE, noise / line)),
	};
}

/** A band around islands is as wide as this, in texels and in shares of the side; what is narrower is a line. */
const BAND = { least: 3.5, most: 0.08 };

/**
 * The colour of a band that lies around all islands, where the ground stops before them; null where there is none. Taken
 * away, a band leaves the islands; a line leaves what it closed, and a fill leaves nothing.
 */
function bandOf(colors: Uint8Array, drawn: Drawn, groundAlpha: number): number[] | null {
	const { width, height, far, least } = drawn;
	const outside = outsideOf(drawn, 0);
	const away = squaredDistances((i) => outside[i] === 1, width, height);
	const rim = [...away.keys()].filter((i) => (away[i] as number) > 2 && (away[i] as number) <= 9);
	if (rim.length === 0) return null;
	const color = mostOf(colors, rim);
	const near = farFrom(colors, color);
	if (rim.filter((i) => (near[i] as number) < STEP).length < rim.length * 0.6) return null;
	const drawnStill = Float32Array.from(far, (v, i) => ((near[i] as number) < 2 * STEP ? 0 : v));
	const inner = outsideOf({ width, height, far: drawnStill, least }, 0);
	let depth = 0;
	for (let i = 0; i < inner.length; i++) if (inner[i] && !outside[i]) depth = Math.max(depth, away[i] as number);
	const wide = Math.sqrt(depth);
	if (wide < BAND.least || wide > BAND.most * Math.max(width, height)) return null;
	const pieces = (of: Uint8Array): number => groupsOf((i) => !of[i], width, height).sizes.filter((n) => n > 12).length;
	const [before, after] = [pieces(outside), pieces(inner)];
	// Clear between what is filled and an opaque ground is no wire, however many islands it leaves.
	const clear = (color[3] as number) < 8 && groundAlpha > 200;
	return after >= before && (clear || after <= 2 * before + 2) ? color : null;
}
