import { type Hex, oklabOfSrgb, rgbOfHex, srgbOfOklab } from '../color/index.ts';
import type { Rect } from '../raster/index.ts';
import { among, bool, finite, hex, list, one, type Shape, strict } from '../shape/index.ts';

/** Colours evenly spaced from one place to another, mixed in OKLab. Places are texels. */
export interface Gradient {
	readonly fill: 'gradient';
	/** Along the line, in rings around its start, or by the angle around its start. */
	readonly way: 'linear' | 'round' | 'angle';
	readonly from: readonly [number, number];
	readonly to: readonly [number, number];
	readonly colors: readonly Hex[];
	/** The last colour fades to nothing. */
	readonly fade: boolean;
}

const place = list(finite, 2, 2);
export const gradientShape: Shape = strict({
	fill: one('gradient'),
	way: among(['linear', 'round', 'angle']),
	from: place,
	to: place,
	colors: list(hex, 32, 1),
	fade: bool,
});

const STEPS = 1024;

/** RGBA8 of the colours from start to end. */
function rampTable({ colors, fade }: Gradient): Uint8Array {
	const labs = colors.map((hex) => {
		const [r, g, b] = rgbOfHex(hex);
		return oklabOfSrgb(r / 255, g / 255, b / 255);
	});
	const out = new Uint8Array((STEPS + 1) * 4);
	const last = labs.length - 1;
	for (let i = 0; i <= STEPS; i++) {
		const place = (i / STEPS) * Math.max(1, last);
		const k = Math.max(0, Math.min(last - 1, Math.floor(place)));
		const [a, b] = [labs[k] as readonly number[], (labs[k + 1] ?? labs[k]) as readonly number[]];
		const t = place - k;
		const lab = [0, 1, 2].map((c) => (a[c] as number) + ((b[c] as number) - (a[c] as number)) * t);
		srgbOfOklab(lab as unknown as [number, number, number]).forEach((v, c) => {
			out[i * 4 + c] = Math.round(255 * Math.min(1, Math.max(0, v)));
		});
		out[i * 4 + 3] = fade ? Math.round(255 * Math.min(1, Math.max(0, last === 0 ? 1 - i / STEPS : last - place))) : 255;
	}
	return out;
}

/**
 * The gradient's texels in a rectangle: RGBA8. `places` says where each is, x and y, where that is not on the sheet. With
 * a `threshold` of places between two of its colours stands one or the other, and nothing in between.
 */
export function gradientBlock(
	gradient: Gradient,
	rect: Rect,
	places?: Float32Array,
	threshold?: (x: number, y: number) => number,
): Uint8Array {
	const stops = Math.max(1, gradient.colors.length - 1);
	const table = rampTable(gradient);
	const out = new Uint8Array(rect.width * rect.height * 4);
	const [fx, fy] = gradient.from;
	const [dx, dy] = [gradient.to[0] - fx, gradient.to[1] - fy];
	const square = dx * dx + dy * dy || 1e-9;
	const long = Math.sqrt(square);
	const turn = Math.atan2(dy, dx);
	for (let i = 0; i < rect.width * rect.height; i++) {
		const x = (places ? (places[i * 2] as number) : rect.x + (i % rect.width) + 0.5) - fx;
		const y = (places ? (places[i * 2 + 1] as number) : rect.y + Math.floor(i / rect.width) + 0.5) - fy;
		if (Number.isNaN(x)) continue;
		let t: number;
		if (gradient.way === 'linear') t = (x * dx + y * dy) / square;
		else if (gradient.way === 'round') t = Math.hypot(x, y) / long;
		else t = ((((Math.atan2(y, x) - turn) / (2 * Math.PI)) % 1) + 1) % 1;
		t = Math.min(1, Math.max(0, t));
		if (threshold) {
			const low = Math.min(stops - 1, Math.floor(t * stops));
			const over = t * stops - low > threshold(rect.x + (i % rect.width), rect.y + Math.floor(i / rect.width));
			t = (low + (over ? 1 : 0)) / stops;
		}
		const at = Math.round(t * STEPS) * 4;
		out[i * 4] = table[at] as number;
		out[i * 4 + 1] = table[at + 1] as number;
		out[i * 4 + 2] = table[at + 2] as number;
		out[i * 4 + 3] = table[at + 3] as number;
	}
	return out;
}
