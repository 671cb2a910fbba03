import type { Kernels } from '@eppu/kernels';
import { Kind, pictureOfSurface, type Surface, TILE } from '../surface/index.ts';
import type { Owners } from './owners.ts';

/**
 * Reads a surface between its texels. Each call leaves straight alpha of 0..255 in `out`; of a mask only the first. What
 * lies outside the surface, or belongs to another island than the one asked for, is not mixed in.
 */
export interface Sampler {
	readonly out: Float64Array;
	/** The texel at whole x, y. */
	at(x: number, y: number): void;
	/** Smoothly at x, y: Catmull and Rom's cubic (1974) over 16 texels, held within the four nearest so that it does not ring. */
	smooth(x: number, y: number, island: number): void;
	/** The mean over `count` by `count` places of the parallelogram of a and b around x, y. */
	mean(x: number, y: number, ax: number, ay: number, bx: number, by: number, count: number, island: number): void;
	/** Whether all that lies in a rectangle of texels is empty. */
	emptyIn(x0: number, y0: number, x1: number, y1: number): boolean;
}

/** Weights of four texels for a place `t` after the second. */
function cubic(t: number, weights: Float64Array): void {
	const t2 = t * t;
	const t3 = t2 * t;
	weights[0] = -0.5 * t3 + t2 - 0.5 * t;
	weights[1] = 1.5 * t3 - 2.5 * t2 + 1;
	weights[2] = -1.5 * t3 + 2 * t2 + 0.5 * t;
	weights[3] = 0.5 * t3 - 0.5 * t2;
}

/** `hard` mixes nothing: every place shows the texel that is nearest. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: the inner loop of carrying, written out: it runs for every texel of every layer.
export function createSampler(kernels: Kernels, surface: Surface, { owner, deep }: Owners, hard: boolean): Sampler {
	const { width, height, cols, kinds } = surface;
	const { data } = pictureOfSurface(kernels, surface);
	const channels = surface.format === 'color' ? 4 : 1;
	const [wx, wy] = [new Float64Array(4), new Float64Array(4)];
	const out = new Float64Array(4);
	/** Colour multiplied by alpha, of one place or of several. */
	const sum = new Float64Array(4);
	const [low, high] = [new Float64Array(4), new Float64Array(4)];
	const put = (x: number, y: number): void => {
		const at = (y * width + x) * channels;
		if (channels === 1) {
			sum[0] = data[at] as number;
			return;
		}
		const alpha = (data[at + 3] as number) / 255;
		sum[0] = (data[at] as number) * alpha;
		sum[1] = (data[at + 1] as number) * alpha;
		sum[2] = (data[at + 2] as number) * alpha;
		sum[3] = data[at + 3] as number;
	};
	/** The nearest texel of its own, at the rim of what is. */
	const nearest = (x: number, y: number, island: number): void => {
		const [cx, cy] = [Math.floor(x), Math.floor(y)];
		let best = Infinity;
		let [bx, by] = [Math.max(0, Math.min(width - 1, cx)), Math.max(0, Math.min(height - 1, cy))];
		for (let ty = Math.max(0, cy - 3); ty <= Math.min(height - 1, cy + 3); ty++)
			for (let tx = Math.max(0, cx - 3); tx <= Math.min(width - 1, cx + 3); tx++) {
				if (owner[ty * width + tx] !== island) continue;
				const d = (tx + 0.5 - x) ** 2 + (ty + 0.5 - y) ** 2;
				if (d >= best) continue;
				best = d;
				[bx, by] = [tx, ty];
			}
		put(bx, by);
	};
	/** What is at a rim: only texels of its own count. */
	const atRim = (x: number, y: number, ix: number, iy: number, island: number): void => {
		let [weight, inner] = [0, 0];
		sum.fill(0);
		low.fill(Infinity);
		high.fill(-Infinity);
		for (let j = 0; j < 4; j++) {
			const ty = iy + j - 1;
			if (ty < 0 || ty >= height) continue;
			for (let i = 0; i < 4; i++) {
				const tx = ix + i - 1;
				if (tx < 0 || tx >= width || owner[ty * width + tx] !== island) continue;
				const w = (wx[i] as number) * (wy[j] as number);
				weight += w;
				const near = (i === 1 || i === 2) && (j === 1 || j === 2);
				if (near) inner++;
				const at = (ty * width + tx) * channels;
				const alpha = channels === 1 ? 1 : (data[at + 3] as number) / 255;
				for (let k = 0; k < channels; k++) {
					const v = (data[at + k] as number) * (k === 3 ? 1 : alpha);
					sum[k] = (sum[k] as number) + w * v;
					if (!near) continue;
					if (v < (low[k] as number)) low[k] = v;
					if (v > (high[k] as number)) high[k] = v;
				}
			}
		}
		if (!inner || weight < 0.25) return nearest(x, y, island);
		for (let k = 0; k < channels; k++)
			sum[k] = Math.max(low[k] as number, Math.min(high[k] as number, (sum[k] as number) / weight));
	};
	/** The smooth value at a place, colour multiplied by alpha, in `sum`. */
	const premultiplied = (x: number, y: number, island: number): void => {
		const ix = Math.floor(x - 0.5);
		const iy = Math.floor(y - 0.5);
		cubic(x - 0.5 - ix, wx);
		cubic(y - 0.5 - iy, wy);
		const middle = iy * width + ix;
		if (ix < 1 || iy < 1 || ix + 2 >= width || iy + 2 >= height || !deep[middle] || owner[middle] !== island)
			return atRim(x, y, ix, iy, island);
		const w0 = wx[0] as number;
		const w1 = wx[1] as number;
		const w2 = wx[2] as number;
		const w3 = wx[3] as number;
		if (channels === 1) {
			let v = 0;
			for (let j = 0, at = middle - width - 1; j < 4; j++, at += width)
				v +=
					(wy[j] as number) *
					(w0 * (data[at] as number) +
						w1 * (data[at + 1] as number) +
						w2 * (data[at + 2] as number) +
						w3 * (data[at + 3] as number));
			const p = data[middle] as number;
			const q = data[middle + 1] as number;
			const r = data[middle + width] as number;
			const s = data[middle + width + 1] as number;
			sum[0] = Math.max(Math.min(p, q, r, s), Math.min(Math.max(p, q, r, s), v));
			return;
		}
		let red = 0;
		let green = 0;
		let blue = 0;
		let alpha = 0;
		for (let j = 0, at = (middle - width - 1) * 4; j < 4; j++, at += width * 4) {
			const wj = wy[j] as number;
			const a0 = w0 * (data[at + 3] as number);
			const a1 = w1 * (data[at + 7] as number);
			const a2 = w2 * (data[at + 11] as number);
			const a3 = w3 * (data[at + 15] as number);
			alpha += wj * (a0 + a1 + a2 + a3);
			red +=
				wj *
				(a0 * (data[at] as number) +
					a1 * (data[at + 4] as number) +
					a2 * (data[at + 8] as number) +
					a3 * (data[at + 12] as number));
			green +=
				wj *
				(a0 * (data[at + 1] as number) +
					a1 * (data[at + 5] as number) +
					a2 * (data[at + 9] as number) +
					a3 * (data[at + 13] as number));
			blue +=
				wj *
				(a0 * (data[at + 2] as number) +
					a1 * (data[at + 6] as number) +
					a2 * (data[at + 10] as number) +
					a3 * (data[at + 14] as number));
		}
		sum[0] = red / 255;
		sum[1] = green / 255;
		sum[2] = blue / 255;
		sum[3] = alpha;
		const p = middle * 4;
		const q = (middle + width) * 4;
		for (let k = 0; k < 4; k++) {
			// Of alpha itself nothing is taken away: it is multiplied by all.
			const a = (data[p + k] as number) * (k === 3 ? 255 : (data[p + 3] as number));
			const b = (data[p + 4 + k] as number) * (k === 3 ? 255 : (data[p + 7] as number));
			const c = (data[q + k] as number) * (k === 3 ? 255 : (data[q + 3] as number));
			const d = (data[q + 4 + k] as number) * (k === 3 ? 255 : (data[q + 7] as number));
			sum[k] = Math.max(Math.min(a, b, c, d) / 255, Math.min(Math.max(a, b, c, d) / 255, sum[k] as number));
		}
	};
	/** `sum` over `count` as straight alpha. */
	const straight = (count: number): void => {
		if (channels === 1) {
			out[0] = (sum[0] as number) / count;
			return;
		}
		const alpha = (sum[3] as number) / count;
		out[3] = alpha;
		const by = alpha > 0 ? 255 / alpha / count : 0;
		for (let k = 0; k < 3; k++) out[k] = Math.min(255, (sum[k] as number) * by);
	};
	const total = new Float64Array(4);
	return {
		out,
		at(x, y) {
			const from = (y * width + x) * channels;
			for (let k = 0; k < channels; k++) out[k] = data[from + k] as number;
		},
		smooth(x, y, island) {
			if (hard) nearest(x, y, island);
			else premultiplied(x, y, island);
			straight(1);
		},
		mean(x, y, ax, ay, bx, by, count, island) {
			if (hard) return this.smooth(x, y, island);
			total.fill(0);
			for (let j = 0; j < count; j++)
				for (let i = 0; i < count; i++) {
					const s = (i + 0.5) / count - 0.5;
					const t = (j + 0.5) / count - 0.5;
					premultiplied(x + s * ax + t * bx, y + s * ay + t * by, island);
					for (let k = 0; k < channels; k++) total[k] = (total[k] as number) + (sum[k] as number);
				}
			sum.set(total);
			straight(count * count);
		},
		emptyIn(x0, y0, x1, y1) {
			const [c0, c1] = [Math.max(0, Math.floor(x0 / TILE)), Math.min(cols - 1, Math.floor(x1 / TILE))];
			const [r0, r1] = [Math.max(0, Math.floor(y0 / TILE)), Math.min(surface.rows - 1, Math.floor(y1 / TILE))];
			for (let r = r0; r <= r1; r++)
				for (let c = c0; c <= c1; c++) if (kinds[r * cols + c] !== Kind.empty) return false;
			return true;
		},
	};
}
