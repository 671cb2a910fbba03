import type { Affine } from './path.ts';
import type { Rect } from './rect.ts';

/** Texels of a rectangle, row by row: RGBA8 straight alpha, A8, or one channel of 16 bits (little-endian). */
export interface Block {
	readonly rect: Rect;
	readonly bytes: 1 | 2 | 4;
	readonly data: Uint8Array;
}

/**
 * A block seen through a map from where it is read to (texel centres of `rect`) back to its own texels. Nearest takes
 * whole texels; smooth reads between four of them by premultiplied colour, and takes the mean of several places where
 * it shrinks. Beside the block there is nothing.
 */
export function resampled(block: Block, rect: Rect, back: Affine, smooth: boolean): Uint8Array {
	const { bytes, data } = block;
	const out = new Uint8Array(rect.width * rect.height * bytes);
	const [a, b, c, d, e, f] = back;
	const { width, height, x: bx, y: by } = block.rect;
	const shrink = Math.max(Math.hypot(a, d), Math.hypot(b, e));
	const taps = smooth ? Math.max(1, Math.min(8, Math.round(shrink))) : 1;
	const sum = new Float64Array(4);
	const add = (x: number, y: number, weight: number): void => {
		if (x < 0 || y < 0 || x >= width || y >= height || weight === 0) return;
		const from = (y * width + x) * bytes;
		if (bytes !== 4) {
			const value = bytes === 1 ? (data[from] as number) : (data[from] as number) + 256 * (data[from + 1] as number);
			sum[3] = (sum[3] as number) + weight * value;
			return;
		}
		const alpha = weight * (data[from + 3] as number);
		for (let k = 0; k < 3; k++) sum[k] = (sum[k] as number) + alpha * (data[from + k] as number);
		sum[3] = (sum[3] as number) + alpha;
	};
	for (let row = 0; row < rect.height; row++)
		for (let col = 0; col < rect.width; col++) {
			const to = (row * rect.width + col) * bytes;
			if (!smooth) {
				const [x, y] = [rect.x + col + 0.5, rect.y + row + 0.5];
				const sx = Math.floor(a * x + b * y + c + 1e-6) - bx;
				const sy = Math.floor(d * x + e * y + f + 1e-6) - by;
				if (sx < 0 || sy < 0 || sx >= width || sy >= height) continue;
				const from = (sy * width + sx) * bytes;
				for (let k = 0; k < bytes; k++) out[to + k] = data[from + k] as number;
				continue;
			}
			sum.fill(0);
			for (let n = 0; n < taps * taps; n++) {
				const x = rect.x + col + ((n % taps) + 0.5) / taps;
				const y = rect.y + row + (Math.floor(n / taps) + 0.5) / taps;
				const u = a * x + b * y + c - bx - 0.5;
				const v = d * x + e * y + f - by - 0.5;
				const [u0, v0] = [Math.floor(u), Math.floor(v)];
				const [s, t] = [u - u0, v - v0];
				add(u0, v0, (1 - s) * (1 - t));
				add(u0 + 1, v0, s * (1 - t));
				add(u0, v0 + 1, (1 - s) * t);
				add(u0 + 1, v0 + 1, s * t);
			}
			const alpha = (sum[3] as number) / (taps * taps);
			if (bytes !== 4) {
				out[to] = Math.round(alpha) & 255;
				if (bytes === 2) out[to + 1] = Math.round(alpha) >> 8;
			} else if ((sum[3] as number) > 0) {
				for (let k = 0; k < 3; k++) out[to + k] = Math.round((sum[k] as number) / (sum[3] as number));
				out[to + 3] = Math.round(alpha);
			}
		}
	return out;
}
