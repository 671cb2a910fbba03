import { luma } from '../color/index.ts';
import type { Picture } from '../surface/index.ts';

/**
 * How far a texel's colour is from another: the largest difference of a channel, alpha among them, 0..255; two wholly
 * clear texels are alike.
 */
function apart(data: Uint8Array, at: number, r: number, g: number, b: number, a: number): number {
	const alpha = data[at + 3] as number;
	if (alpha === 0 && a === 0) return 0;
	return Math.max(
		Math.abs((data[at] as number) - r),
		Math.abs((data[at + 1] as number) - g),
		Math.abs((data[at + 2] as number) - b),
		Math.abs(alpha - a),
	);
}

/**
 * The texels like the one at x, y, as A8: with `together` only those that join it edge by edge (a flood by row spans),
 * else all of the picture. `reach` is how far they may differ, 0..255.
 */
export function similarTo(picture: Picture, x: number, y: number, reach: number, together: boolean): Uint8Array {
	const { width, height, data } = picture;
	const out = new Uint8Array(width * height);
	const [sx, sy] = [Math.floor(x), Math.floor(y)];
	if (sx < 0 || sy < 0 || sx >= width || sy >= height) return out;
	const seed = (sy * width + sx) * 4;
	const [r, g, b, a] = data.subarray(seed, seed + 4) as unknown as [number, number, number, number];
	const like = (i: number): boolean => apart(data, i * 4, r, g, b, a) <= reach;
	if (!together) {
		for (let i = 0; i < out.length; i++) if (like(i)) out[i] = 255;
		return out;
	}
	const stack = [sx, sy];
	while (stack.length) {
		const row = stack.pop() as number;
		let left = stack.pop() as number;
		const base = row * width;
		if (out[base + left] || !like(base + left)) continue;
		let right = left;
		while (left > 0 && !out[base + left - 1] && like(base + left - 1)) left--;
		while (right + 1 < width && !out[base + right + 1] && like(base + right + 1)) right++;
		out.fill(255, base + left, base + right + 1);
		for (const next of [row - 1, row + 1]) {
			if (next < 0 || next >= height) continue;
			// One start for each run of the row above or below.
			for (let i = left; i <= right; i++) {
				const at = next * width + i;
				if (!out[at] && like(at) && (i === left || out[at - 1] || !like(at - 1))) stack.push(i, next);
			}
		}
	}
	return out;
}

/** Texels by tone: whole between `low` and `high` (0..1), fading to nothing over `soft`; clear texels have no tone. */
export function toneRange(picture: Picture, low: number, high: number, soft: number): Uint8Array {
	const { data } = picture;
	const out = new Uint8Array(data.length / 4);
	for (let i = 0; i < out.length; i++) {
		const tone = luma(data[i * 4] as number, data[i * 4 + 1] as number, data[i * 4 + 2] as number) / 255;
		out[i] = Math.round((data[i * 4 + 3] as number) * withinTones(tone, low, high, soft));
	}
	return out;
}

/** 1 between low and high, falling to 0 over `soft` beside them. */
export const withinTones = (tone: number, low: number, high: number, soft: number): number => {
	const beside = Math.max(low - tone, tone - high);
	return beside <= 0 ? 1 : soft > 0 ? Math.max(0, 1 - beside / soft) : 0;
};
