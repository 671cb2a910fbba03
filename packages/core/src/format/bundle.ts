import { deflateSync } from 'fflate';
import { SHEET_SIDE } from '../document/index.ts';
import { MOST_PICTURE_BYTES, readPictureFile } from './pictureFile.ts';
import { crc32 } from './png.ts';
import { type ZipChange, zipChanged } from './zipDirectory.ts';
import { openZip } from './zipFiles.ts';

/** A file of a bundle. */
export interface BundleFile {
	readonly path: string;
	/** Bytes unpacked, as the ZIP says. */
	readonly size: number;
	/** A picture that can be painted, or anything else: that is kept as it is. */
	readonly kind: 'texture' | 'other';
	/** Why it is only kept; null for what can be read. */
	readonly problem: string | null;
}

/** A set of textures in a ZIP, with every path kept. */
export interface Bundle {
	readonly files: readonly BundleFile[];
	/** The bytes of a file, by its place; in words why they cannot be had. */
	content(file: number): Uint8Array<ArrayBuffer> | string;
	/** The ZIP with other bytes for some files, by their place; all else is as it was. */
	written(changes: ReadonlyMap<number, Uint8Array>): Uint8Array<ArrayBuffer>;
}

export type BundleResult =
	| { readonly ok: true; readonly bundle: Bundle }
	| { readonly ok: false; readonly text: string };

/** Reads a bundle: a ZIP of pictures and anything else. What cannot be used of it is named, kept and written back as it is. */
export function readBundle(bytes: Uint8Array, name: string): BundleResult {
	const zip = openZip(bytes, name);
	if (typeof zip === 'string') return { ok: false, text: zip };
	const files = zip.files.map(
		({ path, size, problem }): BundleFile => ({
			path,
			size,
			kind: /\.png$/i.test(path) ? 'texture' : 'other',
			problem:
				problem ?? (size > MOST_PICTURE_BYTES && /\.png$/i.test(path) ? 'it says it is larger than any texture' : null),
		}),
	);
	if (!files.some(({ kind, problem }) => kind === 'texture' && problem === null))
		return { ok: false, text: `${name} holds no PNG that can be read. A bundle is a ZIP with PNG textures in it.` };
	return {
		ok: true,
		bundle: {
			files,
			content(file) {
				const known = files[file];
				if (known?.problem) return `${known.path} is kept as it is: ${known.problem}.`;
				const content = zip.content(file);
				return typeof content === 'string' ? `${content} It is kept as it is.` : content;
			},
			written(changes) {
				const packed = new Map<number, ZipChange>();
				for (const [file, next] of changes) {
					const own = zip.files[file];
					if (own) packed.set(own.index, { packed: deflateSync(next), size: next.length, crc: crc32(next) });
				}
				return zipChanged(bytes, zip.directory, packed);
			},
		},
	};
}

/** The size of a bundle's texture, or in words why it cannot be a sheet. */
export function textureSize(
	bytes: Uint8Array,
	path: string,
): { readonly width: number; readonly height: number } | string {
	const read = readPictureFile(bytes, path);
	if (!read.ok) return read.text;
	const { width, height } = read.file;
	const { least, most } = SHEET_SIDE;
	if (Math.min(width, height) < least || Math.max(width, height) > most)
		return `${path} is ${width} by ${height} texels; sheets have ${least} to ${most} a side. It is kept as it is.`;
	return { width, height };
}
