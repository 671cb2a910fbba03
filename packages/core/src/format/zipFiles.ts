import { inflateExactly } from './inflate.ts';
import { crc32 } from './png.ts';
import { type ZipDirectory, type ZipEntry, zipDirectory } from './zipDirectory.ts';

/** A file of a ZIP that was opened. */
export interface ZipFile {
	readonly path: string;
	/** Bytes unpacked, as the ZIP says. */
	readonly size: number;
	/** Its place in the ZIP's directory. */
	readonly index: number;
	/** Why it cannot be had; null where it can. */
	readonly problem: string | null;
}

/** A ZIP whose every claim was held against its bytes, and whose files are unpacked one at a time. */
export interface OpenZip {
	readonly directory: ZipDirectory;
	/** Without folders. */
	readonly files: readonly ZipFile[];
	/** The bytes of a file, by its place among them; in words why they cannot be had. */
	content(file: number): Uint8Array<ArrayBuffer> | string;
	/** The same by its path. */
	at(path: string): Uint8Array<ArrayBuffer> | string;
	/** The CRC-32 that a file has, as `at` holds it against its bytes; null where there is none of that path. */
	crcOf(path: string): number | null;
}

/** More files and bytes than these are refused. */
const MOST_FILES = 20_000;
const MOST_BYTES = 1024 * 1024 * 1024;
const STORED = 0;
const DEFLATED = 8;

/** Why a path leads nowhere within a ZIP, or null where it does. */
function pathProblem(path: string): string | null {
	if (/^[\\/]|^[a-z]:/i.test(path) || path.includes('\\')) return 'its path does not stay within the ZIP';
	if (path.split('/').some((part) => part === '..')) return 'its path leads out of the ZIP';
	// biome-ignore lint/suspicious/noControlCharactersInRegex: that is what is looked for.
	return /[\u0000-\u001f]/.test(path) ? 'its name has letters that no name has' : null;
}

function problemOf({ path, encrypted, method, size, packed }: ZipEntry, seen: ReadonlySet<string>): string | null {
	if (encrypted) return 'it is encrypted';
	if (method !== STORED && method !== DEFLATED) return 'it is packed in a way that is not read here';
	if (seen.has(path)) return 'there is another file of the same name before it';
	// Deflate makes at most 1032 bytes of each: what says more is no such thing.
	if (size > packed * 1040 + 64 || (method === STORED && size !== packed)) return 'its sizes do not fit each other';
	return pathProblem(path);
}

/** Opens a ZIP, or says in words why not. Files that cannot be had are named with why. */
export function openZip(bytes: Uint8Array, name: string): OpenZip | string {
	if (bytes.length === 0) return `${name} is empty (0 bytes). Save it again.`;
	const directory = zipDirectory(bytes);
	if (typeof directory === 'string') return `${name} ${directory}. Pack it again and open it.`;
	const entries = directory.entries
		.map((entry, index) => ({ entry, index }))
		.filter(({ entry }) => !entry.path.endsWith('/'));
	if (entries.length > MOST_FILES)
		return `${name} holds ${entries.length} files; up to ${MOST_FILES} are read. It was not opened.`;
	if (entries.reduce((sum, { entry }) => sum + entry.size, 0) > MOST_BYTES)
		return `${name} says that it unpacks to more than 1 GB. It was not opened.`;
	const seen = new Set<string>();
	const files = entries.map(({ entry, index }): ZipFile => {
		const problem = problemOf(entry, seen);
		seen.add(entry.path);
		return { path: entry.path, size: entry.size, index, problem };
	});
	const content: OpenZip['content'] = (file) => {
		const [known, own] = [files[file], entries[file]];
		if (!known || !own) return 'There is no such file in it.';
		if (known.problem) return `${known.path} cannot be read: ${known.problem}.`;
		const { data, packed, size, method, crc } = own.entry;
		const raw = bytes.subarray(data, data + packed);
		let out: Uint8Array<ArrayBuffer> | null = null;
		try {
			out = method === STORED ? new Uint8Array(raw) : inflateExactly(raw, size);
		} catch {
			out = null;
		}
		return out && crc32(out) === crc ? out : `${known.path} is damaged in the ZIP.`;
	};
	const places = new Map<string, number>(files.map((file, i) => [file.path, i]));
	return {
		directory,
		files,
		content,
		at(path: string) {
			const place = places.get(path);
			return place === undefined ? `${path} is not there.` : content(place);
		},
		crcOf: (path) => entries[places.get(path) ?? -1]?.entry.crc ?? null,
	};
}
