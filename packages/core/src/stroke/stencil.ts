import { luma } from '../color/index.ts';
import type { Target } from '../projection/index.ts';
import type { Picture } from '../surface/index.ts';
import { TILE, TILE_TEXELS } from '../surface/index.ts';

/** A picture that paint goes through, or that is printed. */
export interface PaintPicture {
	readonly width: number;
	readonly height: number;
	/** A8: how much paint goes through. */
	readonly tone: Uint8Array;
	/** RGBA8: what is printed. */
	readonly rgba: Uint8Array;
}

/** How a stencil or a picture as paint lies over a stroke. */
export interface StencilUse {
	/** Name of a shipped stencil, or the id of a picture of the artist's own. */
	readonly picture: string;
	/** From a place to the picture, 0..1 across and down: u = a·x + b·y + c, v = d·x + e·y + f. */
	readonly place: readonly [number, number, number, number, number, number];
	/** Whether places are the target's own (the stencil lies over the view) or the sheet's texels. */
	readonly space: 'view' | 'sheet';
	/** It repeats; else nothing passes beside it. */
	readonly tile: boolean;
	readonly invert: boolean;
	/** 0 as it is .. 1 wholly blurred. */
	readonly soft: number;
	/** 0..1: how much it holds back, or prints. */
	readonly opacity: number;
	/** Paint goes through its tone, or its own colours are laid. */
	readonly mode: 'through' | 'print';
}

interface Level {
	readonly width: number;
	readonly height: number;
	readonly tone: Uint8Array;
	readonly rgba: Uint8Array;
}
const known = new WeakMap<PaintPicture, Level[]>();

function half({ width, height, tone, rgba }: Level): Level {
	const [w, h] = [Math.max(1, width >> 1), Math.max(1, height >> 1)];
	const [t, c] = [new Uint8Array(w * h), new Uint8Array(w * h * 4)];
	for (let i = 0; i < w * h; i++) {
		const [x, y] = [(i % w) * 2, Math.floor(i / w) * 2];
		let tones = 0;
		const sum = [0, 0, 0, 0] as [number, number, number, number];
		for (let k = 0; k < 4; k++) {
			const from = Math.min(height - 1, y + (k >> 1)) * width + Math.min(width - 1, x + (k & 1));
			tones += tone[from] as number;
			const a = rgba[from * 4 + 3] as number;
			for (let n = 0; n < 3; n++) sum[n] = (sum[n] as number) + a * (rgba[from * 4 + n] as number);
			sum[3] += a;
		}
		t[i] = (tones + 2) >> 2;
		for (let n = 0; n < 3; n++) c[i * 4 + n] = sum[3] ? Math.round((sum[n] as number) / sum[3]) : 0;
		c[i * 4 + 3] = (sum[3] + 2) >> 2;
	}
	return { width: w, height: h, tone: t, rgba: c };
}

/** The picture and its halves, largest first; made at the first call. */
function levelsOf(picture: PaintPicture): Level[] {
	let list = known.get(picture);
	if (!list) {
		known.set(picture, (list = [picture]));
		for (let last = list[0] as Level; last.width > 1 && last.height > 1; list.push(last)) last = half(last);
	}
	return list;
}

/** What a stencil says of the texels of a tile: a gate (A8), and where it prints its colours (RGBA8). */
export interface StencilTile {
	readonly gate: Uint8Array;
	readonly ink: Uint8Array | null;
}

/** What `read` last found: red, green, blue, alpha and tone, 0..255. */
let [red, green, blue, alpha, tone] = [0, 0, 0, 0, 0];

/** Reads a level between four of its texels; one that does not repeat goes on as at its border. */
function read(level: Level, u: number, v: number, tile: boolean): void {
	const { width, height, rgba } = level;
	const x = u * width - 0.5;
	const y = v * height - 0.5;
	let x0 = Math.floor(x);
	let y0 = Math.floor(y);
	const s = x - x0;
	const t = y - y0;
	let x1 = x0 + 1;
	let y1 = y0 + 1;
	if (tile) {
		x0 = ((x0 % width) + width) % width;
		y0 = ((y0 % height) + height) % height;
		x1 = x0 + 1 === width ? 0 : x0 + 1;
		y1 = y0 + 1 === height ? 0 : y0 + 1;
	} else {
		x0 = x0 < 0 ? 0 : x0;
		y0 = y0 < 0 ? 0 : y0;
		x1 = x1 >= width ? width - 1 : x1;
		y1 = y1 >= height ? height - 1 : y1;
	}
	const a = y0 * width + x0;
	const b = y0 * width + x1;
	const c = y1 * width + x0;
	const d = y1 * width + x1;
	const wa = (1 - s) * (1 - t);
	const wb = s * (1 - t);
	const wc = (1 - s) * t;
	const wd = s * t;
	tone =
		wa * (level.tone[a] as number) +
		wb * (level.tone[b] as number) +
		wc * (level.tone[c] as number) +
		wd * (level.tone[d] as number);
	const pa = wa * (rgba[a * 4 + 3] as number);
	const pb = wb * (rgba[b * 4 + 3] as number);
	const pc = wc * (rgba[c * 4 + 3] as number);
	const pd = wd * (rgba[d * 4 + 3] as number);
	alpha = pa + pb + pc + pd;
	if (alpha === 0) {
		red = green = blue = 0;
		return;
	}
	red = mean(rgba, 0, a, b, c, d, pa, pb, pc, pd);
	green = mean(rgba, 1, a, b, c, d, pa, pb, pc, pd);
	blue = mean(rgba, 2, a, b, c, d, pa, pb, pc, pd);
}

/** A channel of four texels weighed by what each has of the alpha. */
function mean(
	rgba: Uint8Array,
	k: number,
	a: number,
	b: number,
	c: number,
	d: number,
	pa: number,
	pb: number,
	pc: number,
	pd: number,
): number {
	const sum =
		pa * (rgba[a * 4 + k] as number) +
		pb * (rgba[b * 4 + k] as number) +
		pc * (rgba[c * 4 + k] as number) +
		pd * (rgba[d * 4 + k] as number);
	return sum / alpha;
}

/** What a picture shows at u, v; `per` is how many of its own texels the place takes. The colours are read anew at each call. */
export function pictureTexel(
	picture: PaintPicture,
	u: number,
	v: number,
	per: number,
	tile: boolean,
): { readonly rgba: readonly [number, number, number, number]; readonly tone: number } {
	const levels = levelsOf(picture);
	const level = per > 1 ? Math.round(Math.log2(per)) : 0;
	read(
		levels[Math.min(levels.length - 1, level)] as Level,
		u - (tile ? Math.floor(u) : 0),
		v - (tile ? Math.floor(v) : 0),
		tile,
	);
	return { rgba: [Math.round(red), Math.round(green), Math.round(blue), Math.round(alpha)], tone: Math.round(tone) };
}

/** Softness 1 is this many halvings. */
const SOFTEST = 6;

/**
 * A stencil's word on a tile, for each of the targets of a stroke (a stroke and its mirror images): where several
 * reach a texel the one that lets most through counts.
 */
export function stencilTile(
	use: StencilUse,
	picture: PaintPicture,
	targets: readonly Target[],
	tile: number,
	sheetPlaces: (tile: number) => Float32Array,
): StencilTile {
	const gate = new Uint8Array(TILE_TEXELS);
	const ink = use.mode === 'print' ? new Uint8Array(TILE_TEXELS * 4) : null;
	const levels = levelsOf(picture);
	const [a, b, c, d, e, f] = use.place;
	const spaces = use.space === 'sheet' ? [sheetPlaces(tile)] : targets.map((target) => target.placesOf(tile));
	const blur = use.soft * SOFTEST;
	for (const places of spaces)
		for (let i = 0; i < TILE_TEXELS; i++) {
			const x = places[i * 2] as number;
			const y = places[i * 2 + 1] as number;
			if (Number.isNaN(x)) continue;
			const u = a * x + b * y + c;
			const v = d * x + e * y + f;
			const inside = use.tile || (u >= 0 && v >= 0 && u < 1 && v < 1);
			let weight = 0;
			if (inside) {
				// How much of the picture a texel takes, from its neighbour's place: that halving of it is read.
				const n = i % TILE === TILE - 1 ? i - 1 : i + 1;
				const dx = (places[n * 2] as number) - x;
				const dy = (places[n * 2 + 1] as number) - y;
				const du = (a * dx + b * dy) * picture.width;
				const dv = (d * dx + e * dy) * picture.height;
				// A neighbour beside the surface, or on another face far away, says nothing.
				const across = dx * dx + dy * dy < 64 ? du * du + dv * dv : 0;
				const level = Math.round(across > 1 ? Math.max(0.5 * Math.log2(across), blur) : blur);
				read(levels[Math.min(levels.length - 1, level)] as Level, u, v, use.tile);
				weight = use.mode === 'print' ? alpha * use.opacity : 255 - use.opacity * (use.invert ? tone : 255 - tone);
			} else if (use.mode === 'through') weight = 255 * (1 - use.opacity);
			const held = Math.round(weight);
			if (held < (gate[i] as number) || (held === 0 && !ink)) continue;
			gate[i] = held;
			if (ink && inside) {
				const flip = use.invert ? 255 : 0;
				ink[i * 4] = Math.abs(flip - Math.round(red));
				ink[i * 4 + 1] = Math.abs(flip - Math.round(green));
				ink[i * 4 + 2] = Math.abs(flip - Math.round(blue));
				ink[i * 4 + 3] = 255;
			}
		}
	return { gate, ink };
}

/** A picture to paint through and to print: alpha lets paint through where it has any, else lightness does. */
export function paintPictureOf({ width, height, data }: Picture): PaintPicture {
	const tone = new Uint8Array(width * height);
	let clear = false;
	for (let i = 3; i < data.length; i += 4) if ((data[i] as number) < 255) clear = true;
	for (let i = 0; i < tone.length; i++) {
		const [r, g, b, a] = data.subarray(i * 4, i * 4 + 4) as unknown as [number, number, number, number];
		tone[i] = clear ? a : Math.round(luma(r, g, b));
	}
	return { width, height, tone, rgba: data };
}

/** A square tip tone of `side` from any picture: alpha where it has any, else what stands out from its border. */
export function tipToneOf(picture: Picture, side: number): Uint8Array {
	const { width, height } = picture;
	const { tone } = paintPictureOf(picture);
	let border = 0;
	for (let i = 0; i < width; i++) border += (tone[i] as number) + (tone[(height - 1) * width + i] as number);
	const dark = border / (2 * width) > 127;
	const out = new Uint8Array(side * side);
	const scale = Math.max(width, height) / side;
	for (let i = 0; i < out.length; i++) {
		const x0 = ((i % side) + 0.5 - side / 2) * scale + width / 2;
		const y0 = (Math.floor(i / side) + 0.5 - side / 2) * scale + height / 2;
		// The mean of what the small texel covers.
		const taps = Math.max(1, Math.ceil(scale));
		let sum = 0;
		for (let k = 0; k < taps * taps; k++) {
			const x = Math.floor(x0 + (((k % taps) + 0.5) / taps - 0.5) * scale);
			const y = Math.floor(y0 + ((Math.floor(k / taps) + 0.5) / taps - 0.5) * scale);
			const outside = x < 0 || y < 0 || x >= width || y >= height;
			const value = outside ? (dark ? 255 : 0) : (tone[y * width + x] as number);
			sum += dark ? 255 - value : value;
		}
		out[i] = Math.round(sum / (taps * taps));
	}
	return out;
}
