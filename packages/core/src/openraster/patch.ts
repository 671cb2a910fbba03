import type { Picture } from '../surface/index.ts';

/** A part of a sheet: RGBA8 of a rectangle, all else clear. */
export interface Patch extends Picture {
	readonly x: number;
	readonly y: number;
	/** The same with 16 bits a channel, where those tell more. */
	readonly fine?: Uint16Array<ArrayBuffer>;
}

/** What of a picture holds anything; one texel where nothing does. */
export function trimmed({ width, height, data, fine, ...place }: Picture & Partial<Patch>): Patch {
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
	const [x, y] = [(place.x ?? 0) + left, (place.y ?? 0) + top];
	const patch = { x, y, width: w, height: h, data: new Uint8Array(out.buffer) };
	if (!fine) return patch;
	const deep = new Uint16Array(w * h * 4);
	for (let row = 0; row < h; row++) {
		const from = ((top + row) * width + left) * 4;
		deep.set(fine.subarray(from, from + w * 4), row * w * 4);
	}
	return { ...patch, fine: deep };
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

/** Sums of patches that were asked for before: a picture is looked at once. */
const sums = new WeakMap<Uint8Array, Map<string, string>>();

/** Mixes a word into a sum of 32 bits (the steps of MurmurHash3, A. Appleby). */
const mixed = (sum: number, word: number): number => {
	const k = Math.imul(word, 0xcc9e2d51);
	const h = sum ^ Math.imul((k << 15) | (k >>> 17), 0x1b873593);
	return (Math.imul((h << 13) | (h >>> 19), 5) + 0xe6546b64) | 0;
};

/** A patch's sum; bits of `unseen` do not count. Zero is nothing, and what has only that beside it does not count. */
function sumBy(patch: Patch, kind: string, unseen: number): string {
	const { data, width, height } = patch;
	const key = `${kind} ${patch.x} ${patch.y}`;
	let known = sums.get(data);
	if (!known) sums.set(data, (known = new Map()));
	const before = known.get(key);
	if (before !== undefined) return before;
	const words = new Uint32Array(data.buffer, data.byteOffset, width * height);
	let one = 0x9747b28c;
	let two = 0x811c9dc5;
	for (let y = 0; y < height; y++) {
		const row = Math.imul(y + patch.y + 1, 0x9e3779b1);
		for (let x = 0, i = y * width; x < width; x++, i++) {
			// Clear texels are most of many pictures.
			if ((words[i] as number) < 0x01000000) continue;
			const word = (words[i] as number) | unseen;
			one = mixed(one, word ^ (row + x + patch.x));
			// A second sum of another kind, so that two pictures of one sum are not met by chance (FNV-1a, by words).
			two = Math.imul(two ^ word, 0x01000193);
		}
	}
	const sum = (one >>> 0).toString(36) + (two >>> 0).toString(36).padStart(7, '0');
	known.set(key, sum);
	return sum;
}

/**
 * Says what is seen of a patch and where, in some letters: the same for all programs that keep its texels, whatever they
 * do to the colours of what is clear, and however much clear they save around it.
 */
export const sumOf = (patch: Patch): string => sumBy(patch, 'color', 0);

/** The same of a mask, which is seen by its alpha alone. */
export const maskSum = (patch: Patch): string => sumBy(patch, 'mask', 0xffffff);

/** A patch of 16 bits as programs have it that keep the upper eight of them. */
const cut = ({ fine, ...patch }: Patch): Patch =>
	fine ? { ...patch, data: Uint8Array.from(fine, (v) => v >> 8) } : patch;

/** The sums that a patch may have where nobody changed it: 16 bits are read as 8 by rounding, or by leaving half away. */
export const sumsOf = (patch: Patch): string => bothBy(sumOf, patch);
export const maskSumsOf = (patch: Patch): string => bothBy(maskSum, patch);
const bothBy = (sum: (patch: Patch) => string, patch: Patch): string =>
	patch.fine ? `${sum(patch)} ${sum(cut(patch))}` : sum(patch);

/** Whether a sum is one of those that were written. */
export const isOneOf = (sum: string, written: string | undefined): boolean =>
	written?.split(' ').includes(sum) ?? false;
