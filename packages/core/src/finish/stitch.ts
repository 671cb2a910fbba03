import { type Hex, rgbOfHex } from '../color/index.ts';
import { contourOf, type Rect, squaredDistances } from '../raster/index.ts';

/** A line of single stitches. Lengths are texels. */
export interface Stitch {
	readonly color: Hex;
	/** It follows the layer's shape, the border of these islands, or closed lines (x, y, x, y … in texels). */
	readonly along: 'shape' | readonly number[] | { readonly lines: readonly (readonly number[])[] };
	/** How far inside the border it runs. */
	readonly inset: number;
	readonly dash: number;
	readonly gap: number;
	/** Thickness of the thread. */
	readonly thick: number;
	/** How far each stitch leans, degrees. */
	readonly twist: number;
	/** 0 flat .. 1 round and shaded, with the hole it sinks into. */
	readonly shade: number;
}

/** One stitch: from a to b in texels. */
export type Thread = readonly [ax: number, ay: number, bx: number, by: number];

/** Shapes larger than this are followed on a coarser grid: a stroke must not wait for the line around a whole sheet. */
const MOST_SIDE = 512;

/**
 * The stitches along a shape's border, `inset` texels inside it. `tone` is A8 of `box` on the sheet. Each closed line
 * takes a whole number of stitches, so that it meets itself.
 */
export function stitchThreads(stitch: Stitch, tone: Uint8Array, box: Rect): Thread[] {
	const k = Math.max(1, Math.ceil(Math.max(box.width, box.height) / MOST_SIDE));
	// Room around it, so that a shape at the box's border is closed there.
	const [w, h] = [Math.ceil(box.width / k) + 2, Math.ceil(box.height / k) + 2];
	const small = new Uint8Array(w * h);
	for (let y = 0; y < h - 2; y++)
		for (let x = 0; x < w - 2; x++) {
			const sx = Math.min(box.width - 1, x * k + (k >> 1));
			const sy = Math.min(box.height - 1, y * k + (k >> 1));
			small[(y + 1) * w + x + 1] = tone[sy * box.width + sx] as number;
		}
	let inner = small;
	if (stitch.inset > 0) {
		const outside = squaredDistances((i) => (small[i] as number) < 128, w, h);
		// The border lies half a cell before the nearest cell that is out.
		const least = (stitch.inset / k + 0.5) ** 2;
		inner = new Uint8Array(w * h);
		for (let i = 0; i < inner.length; i++) if ((outside[i] as number) >= least) inner[i] = 255;
	}
	const threads: Thread[] = [];
	for (const line of contourOf(inner, w, h)) {
		const round = smoothed(line);
		for (let i = 0; i < round.length; i += 2) {
			round[i] = ((round[i] as number) - 1) * k + box.x;
			round[i + 1] = ((round[i + 1] as number) - 1) * k + box.y;
		}
		threads.push(...dashes(round, stitch));
	}
	return threads;
}

/** A line of straight pieces along texel edges as one of single steps, each the mean of its neighbours. */
function smoothed(line: Int32Array): Float64Array {
	const steps: number[] = [];
	for (let i = 0; i < line.length; i += 2) {
		const j = (i + 2) % line.length;
		const [ax, ay, bx, by] = [line[i] as number, line[i + 1] as number, line[j] as number, line[j + 1] as number];
		const long = Math.max(Math.abs(bx - ax), Math.abs(by - ay));
		for (let n = 0; n < long; n++) steps.push(ax + ((bx - ax) * n) / long, ay + ((by - ay) * n) / long);
	}
	const count = steps.length / 2;
	const reach = Math.min(3, Math.floor(count / 4));
	const out = new Float64Array(steps.length);
	for (let i = 0; i < count; i++) {
		let [x, y] = [0, 0];
		for (let d = -reach; d <= reach; d++) {
			const at = ((i + d + count) % count) * 2;
			x += steps[at] as number;
			y += steps[at + 1] as number;
		}
		out[i * 2] = x / (2 * reach + 1);
		out[i * 2 + 1] = y / (2 * reach + 1);
	}
	return out;
}

function dashes(line: Float64Array, { dash, gap, twist }: Stitch): Thread[] {
	const count = line.length / 2;
	const lengths = new Float64Array(count + 1);
	for (let i = 0; i < count; i++) {
		const j = ((i + 1) % count) * 2;
		lengths[i + 1] =
			(lengths[i] as number) +
			Math.hypot((line[j] as number) - (line[i * 2] as number), (line[j + 1] as number) - (line[i * 2 + 1] as number));
	}
	const total = lengths[count] as number;
	const number = Math.floor(total / Math.max(1, dash + gap));
	if (number < 1) return [];
	const pitch = total / number;
	const long = (pitch * dash) / (dash + gap);
	let at = 0;
	const place = (s: number): [number, number] => {
		while (at + 1 < count && (lengths[at + 1] as number) <= s) at++;
		const part = (s - (lengths[at] as number)) / ((lengths[at + 1] as number) - (lengths[at] as number) || 1);
		const j = ((at + 1) % count) * 2;
		const [ax, ay] = [line[at * 2] as number, line[at * 2 + 1] as number];
		return [ax + ((line[j] as number) - ax) * part, ay + ((line[j + 1] as number) - ay) * part];
	};
	const turn = (twist * Math.PI) / 180;
	const [c, s] = [Math.cos(turn), Math.sin(turn)];
	return Array.from({ length: number }, (_, n): Thread => {
		const [ax, ay] = place(n * pitch);
		const [bx, by] = place(n * pitch + long);
		const [mx, my] = [(ax + bx) / 2, (ay + by) / 2];
		const [dx, dy] = [(bx - ax) / 2, (by - ay) / 2];
		const [tx, ty] = [dx * c - dy * s, dx * s + dy * c];
		return [mx - tx, my - ty, mx + tx, my + ty];
	});
}

/** The texels of stitches in a rectangle: RGBA8. Light comes from the upper left, as on painted cords. */
export function stitchBlock(stitch: Stitch, threads: readonly Thread[], rect: Rect): Uint8Array {
	const out = new Uint8Array(rect.width * rect.height * 4);
	const [r, g, b] = rgbOfHex(stitch.color);
	const half = Math.max(0.5, stitch.thick / 2);
	const { shade } = stitch;
	// The hole and shadow around a stitch reach this far past it.
	const dark = shade > 0 ? half * 0.55 : 0;
	for (const [ax, ay, bx, by] of threads) {
		const reach = half + dark + 1.5;
		const x0 = Math.max(rect.x, Math.floor(Math.min(ax, bx) - reach));
		const x1 = Math.min(rect.x + rect.width, Math.ceil(Math.max(ax, bx) + reach));
		const y0 = Math.max(rect.y, Math.floor(Math.min(ay, by) - reach));
		const y1 = Math.min(rect.y + rect.height, Math.ceil(Math.max(ay, by) + reach));
		const [dx, dy] = [bx - ax, by - ay];
		const square = dx * dx + dy * dy || 1e-9;
		const long = Math.sqrt(square);
		for (let y = y0; y < y1; y++)
			for (let x = x0; x < x1; x++) {
				const [px, py] = [x + 0.5 - ax, y + 0.5 - ay];
				const t = Math.min(1, Math.max(0, (px * dx + py * dy) / square));
				const [ex, ey] = [px - t * dx, py - t * dy];
				const away = Math.hypot(ex, ey);
				const cover = Math.min(1, Math.max(0, half - away + 0.5));
				const hole = shade * 0.55 * Math.min(1, Math.max(0, (half + dark - away) / Math.max(0.5, dark)));
				if (cover === 0 && hole <= 0) continue;
				// Across the thread it is round; along it the plies lean.
				const side = (px * -dy + py * dx) / long / half;
				const lit = 0.5 - (0.5 * (ex * 0.55 + ey * 0.83)) / half;
				const ends = 1 - (2 * t - 1) ** 4 * 0.5;
				const plies = 0.5 + 0.5 * Math.sin((t * long) / half / 0.62 + side * 1.9);
				const tone = 1 + shade * (0.62 * (lit - 0.55) * 2 * 0.55 + 0.22 * (plies - 0.6) + 0.35 * (ends - 0.9));
				const i = ((y - rect.y) * rect.width + x - rect.x) * 4;
				lay(out, i, 26, 18, 20, hole * (1 - cover));
				lay(out, i, r * tone, g * tone, b * tone, cover);
			}
	}
	return out;
}

/** Lays a colour over what an RGBA8 place holds; `a` 0..1. */
function lay(out: Uint8Array, i: number, r: number, g: number, b: number, a: number): void {
	if (a <= 0) return;
	const below = ((out[i + 3] as number) / 255) * (1 - a);
	const alpha = a + below;
	const mix = (k: number, v: number): number =>
		Math.round(Math.min(255, Math.max(0, (v * a + (out[i + k] as number) * below) / alpha)));
	out[i] = mix(0, r);
	out[i + 1] = mix(1, g);
	out[i + 2] = mix(2, b);
	out[i + 3] = Math.round(255 * alpha);
}
