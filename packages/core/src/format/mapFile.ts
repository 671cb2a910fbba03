import type { DeepPngReader } from '@eppu/kernels';
import type { JobKind, Work } from '../jobs/index.ts';
import type { MapPicture } from '../surface/index.ts';
import { readPictureFile } from './pictureFile.ts';

export type MapFileResult =
	| { readonly ok: true; readonly map: MapPicture }
	| { readonly ok: false; readonly text: string };

/** Numbers that are read at once, all channels of 16 bits counted, and that are kept as they are. */
const [MOST_READ, MOST_KEPT] = [2 ** 29, 2 ** 28];

/** Colour type and bits of a PNG that begins rightly. Source: W3C PNG 3, 11.2.1. */
const pngHead = (bytes: Uint8Array) => ({ depth: bytes[24] as number, kind: bytes[25] as number });

/** What a PNG that was taken as a map has, to the artist: "2048 × 2048, grey, 16 bits". */
export function mapWords(bytes: Uint8Array): string {
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	const { depth, kind } = pngHead(bytes);
	const channels = { 0: 'grey', 2: 'colours', 3: 'a palette', 4: 'grey and alpha', 6: 'colours and alpha' }[kind];
	return `${view.getUint32(16)} × ${view.getUint32(20)}, ${channels}, ${depth === 16 ? 16 : 8} bits`;
}

/** Room that all who compute share, where there is any. */
function roomFor(count: number, deep: boolean): Uint8Array | Uint16Array {
	const length = count * (deep ? 2 : 1);
	const room = typeof SharedArrayBuffer === 'undefined' ? new ArrayBuffer(length) : new SharedArrayBuffer(length);
	return deep ? new Uint16Array(room) : new Uint8Array(room);
}

/**
 * Reads a PNG as a map: all its size, its 8 or 16 bits, and those channels that it has (colours behind a palette and
 * with a key colour are read as red, green, blue and alpha). What cannot be read, or is larger than 256 MB, is told.
 */
export function readMapFile(bytes: Uint8Array, name: string, read: DeepPngReader): MapFileResult {
	const no = (text: string): MapFileResult => ({ ok: false, text });
	const head = readPictureFile(bytes, name);
	if (!head.ok) return head;
	const { type, width, height } = head.file;
	if (type !== 'image/png') return no(`${name} is no PNG: maps are read from PNG alone. Save it as one.`);
	const { depth, kind } = pngHead(bytes);
	const deep = depth === 16;
	const channels = ({ 0: 1, 2: 3, 4: 2 } as const)[kind as 0 | 2 | 4] ?? 4;
	const cells = width * height;
	if (cells * 4 * (deep ? 2 : 1) > MOST_READ || cells * channels * (deep ? 2 : 1) > MOST_KEPT)
		return no(
			`${name} has ${width} by ${height} texels in ${channels} channels of ${deep ? 16 : 8} bits, more than 256 MB. Save it smaller, or only the channel that is wanted.`,
		);
	let found: { readonly data: Uint8Array | Uint16Array; readonly width: number; readonly height: number };
	try {
		found = deep ? read.deep(bytes) : read(bytes);
	} catch {
		return no(`${name} is damaged: its beginning can be read, the picture cannot. Save it again.`);
	}
	const keyed = kind < 3 && hasKey(bytes);
	const own = keyed ? 4 : channels;
	const data = roomFor(cells * own, deep);
	const from = own === 2 ? [0, 3] : [0, 1, 2, 3].slice(0, own);
	for (let i = 0; i < cells; i++)
		for (let k = 0; k < own; k++) data[i * own + k] = found.data[i * 4 + (from[k] as number)] as number;
	return { ok: true, map: { width, height, channels: own, data } };
}

/** Whether a PNG has a key colour, which is clear. */
function hasKey(bytes: Uint8Array): boolean {
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	for (let at = 8; at + 12 <= bytes.length; at += view.getUint32(at) + 12) {
		const type = view.getUint32(at + 4);
		if (type === 0x74524e53) return true; // tRNS
		if (type === 0x49444154) return false; // IDAT
	}
	return false;
}

/** Reads a map's file. */
export interface ReadMapWork extends Work<MapFileResult> {
	readonly job: 'read-map';
	readonly bytes: Uint8Array;
	readonly name: string;
}

export const readMap: JobKind<ReadMapWork, MapFileResult> = {
	job: 'read-map',
	begin:
		({ codecs }) =>
		async ({ bytes, name }) =>
			readMapFile(bytes, name, await codecs.readPng()),
	handsOver: (result) => (result.ok && result.map.data.buffer instanceof ArrayBuffer ? [result.map.data.buffer] : []),
};
