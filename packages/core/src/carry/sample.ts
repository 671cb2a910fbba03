import type { Heap } from '@eppu/kernels';
import { hasTexels, Kind, type Surface, TILE, texelBytes } from '../surface/index.ts';

/**
 * Reads a surface between its texels. Each call writes 4 numbers 0..255 to `out`, straight alpha; of a mask only the
 * first. What lies outside the surface, or belongs to another island than the one asked for, is not mixed in.
 */
export interface Sampler {
	/** The texel at whole x, y. */
	at(x: number, y: number, out: Float32Array): void;
	/** Smoothly at x, y: Catmull and Rom's cubic (1974) over 16 texels, held within the four nearest so that it does not ring. */
	smooth(x: number, y: number, island: number, out: Float32Array): void;
	/** The mean over `count` by `count` places of a parallelogram around x, y. */
	mean(
		x: number,
		y: number,
		ax: number,
		ay: number,
		bx: number,
		by: number,
		count: number,
		island: number,
		out: Float32Array,
	): void;
	/** Whether all that lies in a rectangle of texels is empty. */
	emptyIn(x0: number, y0: number, x1: number, y1: number): boolean;
}

const cubic = (t: number): [number, number, number, number] => {
	const [t2, t3] = [t * t, t * t * t];
	return [-0.5 * t3 + t2 - 0.5 * t, 1.5 * t3 - 2.5 * t2 + 1, -1.5 * t3 + 2 * t2 + 0.5 * t, 0.5 * t3 - 0.5 * t2];
};

/** `owner` is the island + 1 that each texel of the sheet belongs to, 0 none. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: the inner loop of carrying: one state, no calls that it could do without.
export function createSampler(heap: Heap, surface: Surface, owner: Uint32Array): Sampler {
	const { width, height, cols, kinds, data } = surface;
	const bytes = texelBytes(surface.format);
	const colored = surface.format === 'color';
	const { u8 } = heap;
	const texel = new Float32Array(4);
	/** Reads a texel with its colour multiplied by its alpha, 0..255. */
	const read = (x: number, y: number): void => {
		const tile = Math.floor(y / TILE) * cols + Math.floor(x / TILE);
		const kind = kinds[tile] as Kind;
		if (kind === Kind.empty) {
			texel.fill(0);
			return;
		}
		const at = data[tile] as number;
		if (!colored) {
			texel[0] = hasTexels(kind) ? (u8[at + (y % TILE) * TILE + (x % TILE)] as number) : at;
			return;
		}
		if (hasTexels(kind)) {
			const p = at + ((y % TILE) * TILE + (x % TILE)) * bytes;
			const alpha = u8[p + 3] as number;
			texel[0] = ((u8[p] as number) * alpha) / 255;
			texel[1] = ((u8[p + 1] as number) * alpha) / 255;
			texel[2] = ((u8[p + 2] as number) * alpha) / 255;
			texel[3] = alpha;
			return;
		}
		const alpha = at >>> 24;
		texel[0] = ((at & 255) * alpha) / 255;
		texel[1] = (((at >> 8) & 255) * alpha) / 255;
		texel[2] = (((at >> 16) & 255) * alpha) / 255;
		texel[3] = alpha;
	};
	const channels = colored ? 4 : 1;
	const sum = new Float64Array(4);
	const low = new Float64Array(4);
	const high = new Float64Array(4);
	/** The smooth value at a place, colour multiplied by alpha, in `sum`. */
	const premultiplied = (x: number, y: number, island: number): void => {
		const [fx, fy] = [x - 0.5, y - 0.5];
		const [ix, iy] = [Math.floor(fx), Math.floor(fy)];
		const [wx, wy] = [cubic(fx - ix), cubic(fy - iy)];
		let weight = 0;
		let inner = 0;
		sum.fill(0);
		low.fill(Infinity);
		high.fill(-Infinity);
		for (let j = 0; j < 4; j++) {
			const ty = iy + j - 1;
			if (ty < 0 || ty >= height) continue;
			for (let i = 0; i < 4; i++) {
				const tx = ix + i - 1;
				if (tx < 0 || tx >= width || owner[ty * width + tx] !== island) continue;
				read(tx, ty);
				const w = (wx[i] as number) * (wy[j] as number);
				weight += w;
				const near = (i === 1 || i === 2) && (j === 1 || j === 2);
				if (near) inner++;
				for (let k = 0; k < channels; k++) {
					const v = texel[k] as number;
					sum[k] = (sum[k] as number) + w * v;
					if (!near) continue;
					if (v < (low[k] as number)) low[k] = v;
					if (v > (high[k] as number)) high[k] = v;
				}
			}
		}
		if (!inner || weight < 0.25) {
			// At the rim of what is its own: the nearest texel that is.
			nearest(x, y, island);
			return;
		}
		for (let k = 0; k < channels; k++)
			sum[k] = Math.max(low[k] as number, Math.min(high[k] as number, (sum[k] as number) / weight));
	};
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
		read(bx, by);
		for (let k = 0; k < channels; k++) sum[k] = texel[k] as number;
	};
	/** `sum` over `count` as straight alpha. */
	const straight = (out: Float32Array, count = 1): void => {
		if (!colored) {
			out[0] = (sum[0] as number) / count;
			return;
		}
		const alpha = (sum[3] as number) / count;
		out[3] = alpha;
		for (let k = 0; k < 3; k++) out[k] = alpha > 0 ? Math.min(255, ((sum[k] as number) / count / alpha) * 255) : 0;
	};
	const total = new Float64Array(4);
	return {
		at(x, y, out) {
			read(x, y);
			for (let k = 0; k < channels; k++) sum[k] = texel[k] as number;
			straight(out);
		},
		smooth(x, y, island, out) {
			premultiplied(x, y, island);
			straight(out);
		},
		mean(x, y, ax, ay, bx, by, count, island, out) {
			total.fill(0);
			for (let j = 0; j < count; j++)
				for (let i = 0; i < count; i++) {
					const [s, t] = [(i + 0.5) / count - 0.5, (j + 0.5) / count - 0.5];
					premultiplied(x + s * ax + t * bx, y + s * ay + t * by, island);
					for (let k = 0; k < channels; k++) total[k] = (total[k] as number) + (sum[k] as number);
				}
			sum.set(total);
			straight(out, count * count);
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
