import type { PngWriter } from '@eppu/kernels';
import { zlibSync } from 'fflate';
import { joined, type Picture } from '../surface/index.ts';

/** CRC-32 tables for eight bytes a step (ISO 3309; slicing by eight). */
const tables = (() => {
	const first = Uint32Array.from({ length: 256 }, (_, n) => {
		let c = n;
		for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
		return c >>> 0;
	});
	const all = [first];
	for (let k = 1; k < 8; k++)
		all.push(Uint32Array.from(all[k - 1] as Uint32Array, (v) => (v >>> 8) ^ (first[v & 255] as number)));
	return all as [Uint32Array, ...Uint32Array[]];
})();

/** CRC-32 of bytes, as PNG and ZIP use it. */
export function crc32(bytes: Uint8Array): number {
	const [t0, t1, t2, t3, t4, t5, t6, t7] = tables as unknown as [
		Uint32Array,
		Uint32Array,
		Uint32Array,
		Uint32Array,
		Uint32Array,
		Uint32Array,
		Uint32Array,
		Uint32Array,
	];
	let c = 0xffffffff;
	let i = 0;
	// Words are read where they lie even; all hosts of ours have the lower byte first.
	for (; i < bytes.length && (bytes.byteOffset + i) % 4; i++)
		c = (t0[(c ^ (bytes[i] as number)) & 255] as number) ^ (c >>> 8);
	const pairs = Math.floor((bytes.length - i) / 8);
	const words = pairs ? new Int32Array(bytes.buffer, bytes.byteOffset + i, pairs * 2) : new Int32Array(0);
	for (let k = 0; k < words.length; k += 2) {
		const x = c ^ (words[k] as number);
		const y = words[k + 1] as number;
		c =
			(t7[x & 255] as number) ^
			(t6[(x >>> 8) & 255] as number) ^
			(t5[(x >>> 16) & 255] as number) ^
			(t4[x >>> 24] as number) ^
			(t3[y & 255] as number) ^
			(t2[(y >>> 8) & 255] as number) ^
			(t1[(y >>> 16) & 255] as number) ^
			(t0[y >>> 24] as number);
	}
	for (i += pairs * 8; i < bytes.length; i++) c = (t0[(c ^ (bytes[i] as number)) & 255] as number) ^ (c >>> 8);
	return (c ^ 0xffffffff) >>> 0;
}

/** A chunk of a PNG: how long it is, what, its bytes and their check. */
export const pngChunk = (type: string, data: Uint8Array): Uint8Array => {
	const out = new Uint8Array(12 + data.length);
	const view = new DataView(out.buffer);
	view.setUint32(0, data.length);
	for (let i = 0; i < 4; i++) out[4 + i] = type.charCodeAt(i);
	out.set(data, 8);
	view.setUint32(8 + data.length, crc32(out.subarray(4, 8 + data.length)));
	return out;
};

/** The chunks of a PNG that is whole. */
export function pngChunks(png: Uint8Array): { readonly type: string; readonly data: Uint8Array }[] {
	const view = new DataView(png.buffer, png.byteOffset, png.byteLength);
	const out: { type: string; data: Uint8Array }[] = [];
	for (let at = 8; at + 12 <= png.length; ) {
		const length = view.getUint32(at);
		const type = String.fromCharCode(...png.subarray(at + 4, at + 8));
		out.push({ type, data: png.subarray(at + 8, at + 8 + length) });
		at += 12 + length;
	}
	return out;
}

/** Bytes of the signature and the head of every PNG: what says more of the picture stands after them. */
const HEAD = 8 + 25;

/**
 * A picture as PNG: 8 bit, sRGB, straight alpha (RFC 2083 and W3C PNG 3). The writer is one module everywhere, so that
 * browser, server and command line write the same bytes.
 */
export function encodePng(write: PngWriter, { data, width, height }: Picture): Uint8Array<ArrayBuffer> {
	return inSrgb(write(data, width, height));
}

/** A PNG that says that its colours are sRGB. */
function inSrgb(plain: Uint8Array): Uint8Array<ArrayBuffer> {
	const space = pngChunk('sRGB', Uint8Array.of(0));
	const out = new Uint8Array(plain.length + space.length);
	out.set(plain.subarray(0, HEAD));
	out.set(space, HEAD);
	out.set(plain.subarray(HEAD), HEAD + space.length);
	return out;
}

/** Colour types of PNG files without alpha beside each texel. */
const plainKinds = { gray: [0, 1], rgb: [2, 3], indexed: [3, 1] } as const;
const SIGNATURE = Uint8Array.of(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a);

/**
 * Each row behind the number of its filter. Of none, left and above, that which leaves the least: the sum of absolute
 * differences tells (W3C PNG 3, 12.7); places in a palette are never filtered.
 */
function filteredRows(texels: Uint8Array, rowBytes: number, step: number, filters: boolean): Uint8Array {
	const rows = texels.length / rowBytes;
	const out = new Uint8Array(rows * (rowBytes + 1));
	const tries = [new Uint8Array(rowBytes), new Uint8Array(rowBytes), new Uint8Array(rowBytes)] as const;
	const cost = (v: number): number => (v < 128 ? v : 256 - v);
	for (let y = 0; y < rows; y++) {
		const at = y * rowBytes;
		const sums = [0, 0, 0];
		for (let i = 0; i < rowBytes; i++) {
			const v = texels[at + i] as number;
			tries[0][i] = v;
			if (!filters) continue;
			tries[1][i] = v - (i < step ? 0 : (texels[at + i - step] as number));
			tries[2][i] = v - (y ? (texels[at + i - rowBytes] as number) : 0);
			for (let k = 0; k < 3; k++) sums[k] = (sums[k] as number) + cost((tries[k] as Uint8Array)[i] as number);
		}
		const best = sums.indexOf(Math.min(...sums));
		out[y * (rowBytes + 1)] = best;
		out.set(tries[best] as Uint8Array, y * (rowBytes + 1) + 1);
	}
	return out;
}

/**
 * Texels of one or three bytes as a PNG: greys, colours, or places among `colors` (RGBA8). Alpha stands only beside a
 * palette.
 */
export function plainPng(
	kind: keyof typeof plainKinds,
	width: number,
	height: number,
	texels: Uint8Array,
	colors: Uint8Array = new Uint8Array(0),
): Uint8Array<ArrayBuffer> {
	const [type, bytes] = plainKinds[kind];
	const head = new Uint8Array(13);
	new DataView(head.buffer).setUint32(0, width);
	new DataView(head.buffer).setUint32(4, height);
	head.set([8, type], 8);
	const parts = [SIGNATURE, pngChunk('IHDR', head), pngChunk('sRGB', Uint8Array.of(0))];
	if (kind === 'indexed') {
		parts.push(
			pngChunk(
				'PLTE',
				colors.filter((_, i) => i % 4 < 3),
			),
		);
		const alphas = colors.filter((_, i) => i % 4 === 3);
		if (alphas.some((alpha) => alpha < 255)) parts.push(pngChunk('tRNS', alphas));
	}
	const rows = filteredRows(texels, width * bytes, bytes, kind !== 'indexed');
	parts.push(pngChunk('IDAT', zlibSync(rows, { level: 6 })), pngChunk('IEND', new Uint8Array(0)));
	return joined(parts);
}

/** Numbers of four channels, row by row: 16 bits each, or 8. Only where they are colours a word on those belongs to them. */
export interface Numbers {
	readonly width: number;
	readonly height: number;
	readonly numbers: Uint16Array<ArrayBuffer> | Uint8Array<ArrayBuffer>;
	readonly colors?: boolean;
}

/** A picture as PNG: colours, or greys where it has one channel; or numbers, which say nothing of the colours' space. */
export function pictureAsPng(write: PngWriter, picture: Picture | Numbers): Uint8Array<ArrayBuffer> {
	const { width, height } = picture;
	if (!('numbers' in picture))
		return picture.data.length === width * height * 4
			? encodePng(write, picture)
			: plainPng('gray', width, height, picture.data);
	const { numbers } = picture;
	if (numbers instanceof Uint8Array) return new Uint8Array(write(numbers, width, height));
	const bytes = new Uint8Array(numbers.length * 2);
	const view = new DataView(bytes.buffer);
	for (let i = 0; i < numbers.length; i++) view.setUint16(i * 2, numbers[i] as number);
	const png = write(bytes, width, height, 16);
	return picture.colors ? inSrgb(png) : new Uint8Array(png);
}

/** A bake as numbers of 16 bits, or of 8 by their upper half. */
export function bakeNumbers(
	{ data, width, height }: { readonly data: Uint16Array<ArrayBuffer>; readonly width: number; readonly height: number },
	depth: 8 | 16,
): Numbers {
	return { width, height, numbers: depth === 16 ? data : Uint8Array.from(data, (v) => Math.round(v / 257)) };
}
