import { crc32 } from '../format/index.ts';
import type { Picture } from '../surface/index.ts';

/** A part of a sheet: RGBA8 of a rectangle, all else clear. */
export interface Patch extends Picture {
	readonly x: number;
	readonly y: number;
}

/** What of a picture holds anything; one texel where nothing does. `from` tells which texels count. */
export function trimmed({
	width,
	height,
	data,
	...place
}: Picture & { readonly x?: number; readonly y?: number }): Patch {
	const words = new Uint32Array(data.buffer, data.byteOffset, width * height);
	let [top, bottom, left, right] = [height, -1, width, -1];
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++)
			if (words[y * width + x]) {
				if (top === height) top = y;
				bottom = y;
				if (x < left) left = x;
				if (x > right) right = x;
			}
	if (bottom < 0) return { x: 0, y: 0, width: 1, height: 1, data: new Uint8Array(4) };
	const [w, h] = [right - left + 1, bottom - top + 1];
	const out = new Uint32Array(w * h);
	for (let y = 0; y < h; y++) out.set(words.subarray((top + y) * width + left, (top + y) * width + left + w), y * w);
	return { x: (place.x ?? 0) + left, y: (place.y ?? 0) + top, width: w, height: h, data: new Uint8Array(out.buffer) };
}

/** A patch as a picture of the whole sheet; what lies beyond it is left out. */
export function laidOut(patch: Patch, width: number, height: number): Picture {
	const data = new Uint8Array(width * height * 4);
	for (let y = Math.max(0, -patch.y); y < patch.height && patch.y + y < height; y++) {
		const from = Math.max(0, -patch.x);
		const to = Math.min(patch.width, width - patch.x);
		if (to <= from) break;
		const row = y * patch.width;
		data.set(patch.data.subarray((row + from) * 4, (row + to) * 4), ((patch.y + y) * width + patch.x + from) * 4);
	}
	return { width, height, data };
}

/** Whether a patch has anything beyond a sheet. */
export const goesBeyond = (
	{ x, y, width, height }: Patch,
	sheet: { readonly width: number; readonly height: number },
): boolean => x < 0 || y < 0 || x + width > sheet.width || y + height > sheet.height;

/** The alpha of a picture, one byte a texel. */
export function alphaOf({ width, height, data }: Picture): Picture {
	const out = new Uint8Array(width * height);
	for (let i = 0; i < out.length; i++) out[i] = data[i * 4 + 3] as number;
	return { width, height, data: out };
}

/** Alpha as a white picture. */
export function whiteOf({ width, height, data }: Picture): Picture {
	const out = new Uint8Array(width * height * 4);
	for (let i = 0; i < data.length; i++) if (data[i]) out.set([255, 255, 255, data[i] as number], i * 4);
	return { width, height, data: out };
}

/**
 * Says what is seen of a patch and where, in eight letters: the same for all programs that keep its texels, whatever they
 * do to colours that are clear.
 */
export function sumOf(patch: Patch): string {
	const data = patch.data.slice();
	for (let i = 0; i < data.length; i += 4) if (!data[i + 3]) data.fill(0, i, i + 3);
	const { x, y, width, height, data: seen } = trimmed({ ...patch, data });
	const all = new Uint8Array(16 + seen.length);
	const view = new DataView(all.buffer);
	[x, y, width, height].forEach((v, i) => {
		view.setInt32(i * 4, v, true);
	});
	all.set(seen, 16);
	return crc32(all).toString(16).padStart(8, '0');
}

/** Two sums differ only by what nothing is: a mask is seen by its alpha alone. */
export const maskSum = (patch: Patch): string => {
	const data = patch.data.slice();
	for (let i = 0; i < data.length; i += 4) data.fill(255, i, i + 3);
	return sumOf({ ...patch, data });
};
