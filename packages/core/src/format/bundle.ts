import { deflateSync } from 'fflate';
import { SHEET_SIDE } from '../document/index.ts';
import { inflateExactly } from './inflate.ts';
import { MOST_PICTURE_BYTES, readPictureFile } from './pictureFile.ts';
import { crc32 } from './png.ts';
import { type ZipChange, type ZipEntry, zipChanged, zipDirectory } from './zipDirectory.ts';

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

/** More files and bytes than these are refused. */
const MOST_FILES = 20_000;
const MOST_BYTES = 1024 * 1024 * 1024;
const STORED = 0;
const DEFLATED = 8;

/** Why a path leads nowhere within a bundle, or null where it does. */
function pathProblem(path: string): string | null {
	if (/^[\\/]|^[a-z]:/i.test(path) || path.includes('\\')) return 'its path does not stay within the bundle';
	if (path.split('/').some((part) => part === '..')) return 'its path leads out of the bundle';
	// biome-ignore lint/suspicious/noControlCharactersInRegex: that is what is looked for.
	return /[\u0000-\u001f]/.test(path) ? 'its name has letters that no name has' : null;
}

function problemOf({ path, encrypted, method, size, packed }: ZipEntry, seen: ReadonlySet<string>): string | null {
	if (encrypted) return 'it is encrypted';
	if (method !== STORED && method !== DEFLATED) return 'it is packed in a way that is not read here';
	if (seen.has(path)) return 'there is another file of the same name before it';
	if (size > MOST_PICTURE_BYTES && /\.png$/i.test(path)) return 'it says it is larger than any texture';
	// Deflate makes at most 1032 bytes of each: what says more is no such thing.
	if (size > packed * 1040 + 64 || (method === STORED && size !== packed)) return 'its sizes do not fit each other';
	return pathProblem(path);
}

/** Reads a bundle: a ZIP of pictures and anything else. What cannot be used of it is named, kept and written back as it is. */
export function readBundle(bytes: Uint8Array, name: string): BundleResult {
	const no = (text: string): BundleResult => ({ ok: false, text });
	if (bytes.length === 0) return no(`${name} is empty (0 bytes). Save it again.`);
	const directory = zipDirectory(bytes);
	if (typeof directory === 'string') return no(`${name} ${directory}. Pack it again and open it.`);
	const entries = directory.entries
		.map((entry, index) => ({ entry, index }))
		.filter(({ entry }) => !entry.path.endsWith('/'));
	if (entries.length > MOST_FILES)
		return no(`${name} holds ${entries.length} files; bundles of up to ${MOST_FILES} are opened.`);
	if (entries.reduce((sum, { entry }) => sum + entry.size, 0) > MOST_BYTES)
		return no(`${name} says that it unpacks to more than 1 GB. It was not opened.`);
	const seen = new Set<string>();
	const files = entries.map(({ entry }): BundleFile => {
		const problem = problemOf(entry, seen);
		seen.add(entry.path);
		return { path: entry.path, size: entry.size, kind: /\.png$/i.test(entry.path) ? 'texture' : 'other', problem };
	});
	if (!files.some(({ kind, problem }) => kind === 'texture' && problem === null))
		return no(`${name} holds no PNG that can be read. A bundle is a ZIP with PNG textures in it.`);
	return {
		ok: true,
		bundle: {
			files,
			content(file) {
				const [known, own] = [files[file], entries[file]];
				if (!known || !own) return 'There is no such file in the bundle.';
				if (known.problem) return `${known.path} is kept as it is: ${known.problem}.`;
				const { data, packed, size, method, crc } = own.entry;
				const raw = bytes.subarray(data, data + packed);
				let out: Uint8Array<ArrayBuffer> | null = null;
				try {
					out = method === STORED ? new Uint8Array(raw) : inflateExactly(raw, size);
				} catch {
					out = null;
				}
				if (!out || crc32(out) !== crc) return `${known.path} is damaged in the bundle. It is kept as it is.`;
				return out;
			},
			written(changes) {
				const packed = new Map<number, ZipChange>();
				for (const [file, next] of changes) {
					const own = entries[file];
					if (own) packed.set(own.index, { packed: deflateSync(next), size: next.length, crc: crc32(next) });
				}
				return zipChanged(bytes, directory, packed);
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
