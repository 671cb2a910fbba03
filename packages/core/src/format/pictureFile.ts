/** What a picture file says of itself, read from its first bytes before anything decodes it. */
export interface PictureFile {
	readonly type: 'image/png' | 'image/jpeg' | 'image/webp';
	readonly width: number;
	readonly height: number;
}

export type PictureFileResult =
	| { readonly ok: true; readonly file: PictureFile }
	| { readonly ok: false; readonly text: string };

/** The kinds of pictures that are taken in, wherever one is: the endings of their names. */
export const pictureEndings = ['.png', '.jpg', '.jpeg', '.webp'] as const;
export const isPictureName = (name: string): boolean => pictureEndings.some((end) => name.toLowerCase().endsWith(end));

/** Longest side and most bytes of a picture that is taken in. */
export const MOST_PICTURE_SIDE = 16384;
export const MOST_PICTURE_BYTES = 64 * 1024 * 1024;

const no = (text: string): PictureFileResult => ({ ok: false, text });

const text = (bytes: Uint8Array, from: number, to: number): string => String.fromCharCode(...bytes.subarray(from, to));

/** Width and height of a JPEG from its first start-of-frame marker (ITU T.81). */
function jpegSize(bytes: Uint8Array): { width: number; height: number } | null {
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	for (let at = 2; at + 9 < bytes.length; ) {
		if (bytes[at] !== 0xff) return null;
		const marker = bytes[at + 1] as number;
		if (marker >= 0xc0 && marker <= 0xcf && marker !== 0xc4 && marker !== 0xc8 && marker !== 0xcc)
			return { height: view.getUint16(at + 5), width: view.getUint16(at + 7) };
		at += marker === 0xff ? 1 : 2 + view.getUint16(at + 2);
	}
	return null;
}

function webpSize(bytes: Uint8Array): { width: number; height: number } | null {
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	if (bytes.length < 30) return null;
	const kind = text(bytes, 12, 16);
	if (kind === 'VP8X')
		return { width: 1 + (view.getUint32(24, true) & 0xffffff), height: 1 + (view.getUint32(26, true) >>> 8) };
	if (kind === 'VP8 ') return { width: view.getUint16(26, true) & 0x3fff, height: view.getUint16(28, true) & 0x3fff };
	const bits = view.getUint32(21, true);
	return kind === 'VP8L' ? { width: 1 + (bits & 0x3fff), height: 1 + ((bits >>> 14) & 0x3fff) } : null;
}

/** Looks at a picture file: PNG, JPEG or WebP of up to 16384 px a side. What does not fit is told in plain words. */
export function readPictureFile(bytes: Uint8Array, name: string): PictureFileResult {
	if (bytes.length === 0) return no(`${name} is empty (0 bytes). Save the picture again.`);
	if (bytes.length > MOST_PICTURE_BYTES)
		return no(`${name} is ${Math.round(bytes.length / 1048576)} MB; pictures of up to 64 MB are taken.`);
	let file: PictureFile | null = null;
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	if (bytes.length >= 33 && text(bytes, 1, 4) === 'PNG' && text(bytes, 12, 16) === 'IHDR')
		file = { type: 'image/png', width: view.getUint32(16), height: view.getUint32(20) };
	else if (bytes[0] === 0xff && bytes[1] === 0xd8) {
		const size = jpegSize(bytes);
		file = size && { type: 'image/jpeg', ...size };
	} else if (text(bytes, 0, 4) === 'RIFF' && text(bytes, 8, 12) === 'WEBP') {
		const size = webpSize(bytes);
		file = size && { type: 'image/webp', ...size };
	}
	if (!file) return no(`${name} is not a picture that Eppu opens, or it is damaged. Save it as PNG, JPEG or WebP.`);
	if (file.width < 1 || file.height < 1)
		return no(`${name} says it is ${file.width} by ${file.height} px, so there is nothing in it. Save it again.`);
	if (file.width > MOST_PICTURE_SIDE || file.height > MOST_PICTURE_SIDE)
		return no(
			`${name} is ${file.width} by ${file.height} px; pictures of up to ${MOST_PICTURE_SIDE} px a side are taken. Make it smaller and open it again.`,
		);
	return { ok: true, file };
}
