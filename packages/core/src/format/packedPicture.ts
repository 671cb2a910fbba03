import { zlibSync } from 'fflate';
import type { Picture } from '../surface/index.ts';
import { inflateExactly } from './inflate.ts';

/** Longest side of a picture that is kept as a tip, a stencil or a reference. */
export const MOST_LIBRARY_SIDE = 2048;

const MAGIC = 0x31585045; // "EPX1"
const HEAD = 12;

/** Why a packed picture cannot be read. */
export class PackedPictureError extends Error {
	override readonly name = 'PackedPictureError';
}

/** A picture as the library keeps it: "EPX1", width and height as u32, then RGBA8 rows deflated. */
export function packPicture(picture: Picture): Uint8Array<ArrayBuffer> {
	const body = zlibSync(picture.data, { level: 6 });
	const out = new Uint8Array(HEAD + body.length);
	const view = new DataView(out.buffer);
	view.setUint32(0, MAGIC, true);
	view.setUint32(4, picture.width, true);
	view.setUint32(8, picture.height, true);
	out.set(body, HEAD);
	return out;
}

/** Checksum at the end of a zlib stream. Source: RFC 1950, Adler-32. */
function adler32(bytes: Uint8Array): number {
	let [a, b] = [1, 0];
	for (let i = 0; i < bytes.length; ) {
		for (const end = Math.min(bytes.length, i + 3800); i < end; i++) {
			a += bytes[i] as number;
			b += a;
		}
		a %= 65521;
		b %= 65521;
	}
	return ((b << 16) | a) >>> 0;
}

/** The picture of `packPicture`'s bytes. Throws PackedPictureError where they are none, or say more than they hold. */
export function unpackPicture(bytes: Uint8Array): Picture {
	const bad = (): never => {
		throw new PackedPictureError('That is not a packed picture, or it is damaged.');
	};
	if (bytes.length < HEAD + 8) bad();
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	const [width, height] = [view.getUint32(4, true), view.getUint32(8, true)];
	const fits = (side: number): boolean => side >= 1 && side <= MOST_LIBRARY_SIDE;
	if (view.getUint32(0, true) !== MAGIC || !fits(width) || !fits(height)) bad();
	let data: Uint8Array | null = null;
	try {
		data = inflateExactly(bytes.subarray(HEAD + 2, bytes.length - 4), width * height * 4);
	} catch {
		bad();
	}
	if (!data || adler32(data) !== view.getUint32(bytes.length - 4)) return bad();
	return { width, height, data };
}
