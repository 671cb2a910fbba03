/**
 * The directory of a ZIP (PKWARE APPNOTE 6.3), read and written so that what is not changed stays as it is, byte for byte.
 * What files hold is inflated and deflated by others.
 */

/** A file as a ZIP's directory tells of it. */
export interface ZipEntry {
	readonly path: string;
	/** Bytes packed and unpacked, as the directory says. */
	readonly packed: number;
	readonly size: number;
	readonly method: number;
	readonly encrypted: boolean;
	readonly crc: number;
	/** From its own head up to what comes after it in the ZIP. */
	readonly from: number;
	readonly to: number;
	/** Where its packed bytes begin. */
	readonly data: number;
	/** Its record in the directory. */
	readonly record: Uint8Array;
}

export interface ZipDirectory {
	readonly entries: readonly ZipEntry[];
	/** From here on: the directory, and what ends the ZIP. */
	readonly start: number;
	/** Said at its end. */
	readonly comment: Uint8Array;
}

const LOCAL = 0x04034b50;
const CENTRAL = 0x02014b50;
const END = 0x06054b50;
const END_BYTES = 22;

const view = (bytes: Uint8Array): DataView => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

/** Names with the UTF-8 flag are so; others are read as Latin-1, which every byte has a letter in. */
const nameOf = (bytes: Uint8Array, utf8: boolean): string => new TextDecoder(utf8 ? 'utf-8' : 'latin1').decode(bytes);

/** Where the record at the end of a ZIP stands; -1 where there is none. */
function endOf(bytes: Uint8Array): number {
	const at = view(bytes);
	for (let i = bytes.length - END_BYTES; i >= Math.max(0, bytes.length - END_BYTES - 65535); i--)
		if (at.getUint32(i, true) === END && i + END_BYTES + at.getUint16(i + 20, true) === bytes.length) return i;
	return -1;
}

/** The directory of a ZIP, or in words why it cannot be read: every number in it is held against the file itself. */
export function zipDirectory(bytes: Uint8Array): ZipDirectory | string {
	const end = endOf(bytes);
	if (end < 0) return 'is not a ZIP, or its end is missing';
	const at = view(bytes);
	const [count, long, start] = [
		at.getUint16(end + 10, true),
		at.getUint32(end + 12, true),
		at.getUint32(end + 16, true),
	];
	if (start === 0xffffffff || count === 0xffff) return 'is of the large kind (ZIP64), which is not read here';
	if (start + long > end) return 'is damaged: its directory does not lie within it';
	const heads: Omit<ZipEntry, 'to'>[] = [];
	let place = start;
	for (let n = 0; n < count; n++) {
		if (place + 46 > end || at.getUint32(place, true) !== CENTRAL) return 'is damaged: its directory ends too soon';
		const [flags, method] = [at.getUint16(place + 8, true), at.getUint16(place + 10, true)];
		const [crc, packed, size] = [16, 20, 24].map((k) => at.getUint32(place + k, true)) as [number, number, number];
		const [names, extra, comment] = [28, 30, 32].map((k) => at.getUint16(place + k, true)) as [number, number, number];
		const from = at.getUint32(place + 42, true);
		const record = bytes.subarray(place, place + 46 + names + extra + comment);
		if (place + record.length > end || record.length < 46 + names) return 'is damaged: its directory ends too soon';
		if (from + 30 > start || at.getUint32(from, true) !== LOCAL) return 'is damaged: a file in it is not where it says';
		const data = from + 30 + at.getUint16(from + 26, true) + at.getUint16(from + 28, true);
		if (data + packed > start) return 'is damaged: a file in it goes on beyond its end';
		const path = nameOf(record.subarray(46, 46 + names), (flags & 0x800) !== 0);
		heads.push({ path, packed, size, method, encrypted: (flags & 1) !== 0, crc, from, data, record });
		place += record.length;
	}
	const inOrder = [...heads].sort((a, b) => a.from - b.from);
	const ends = new Map(inOrder.map((head, i) => [head, inOrder[i + 1]?.from ?? start]));
	const entries = heads.map((head) => ({ ...head, to: ends.get(head) as number }));
	if (entries.some(({ data, packed, to }) => data + packed > to))
		return 'is built so that its files lie on each other, as no program writes them';
	return { entries, start, comment: bytes.subarray(end + END_BYTES) };
}

/** What a file of a ZIP is put in the place of: its bytes packed by deflate, their size and check before. */
export interface ZipChange {
	readonly packed: Uint8Array;
	readonly size: number;
	readonly crc: number;
}

/** A ZIP with some files changed, by their place in its directory: all else is as it was, byte for byte. */
export function zipChanged(
	bytes: Uint8Array,
	{ entries, start, comment }: ZipDirectory,
	changes: ReadonlyMap<number, ZipChange>,
): Uint8Array<ArrayBuffer> {
	const parts: Uint8Array[] = [];
	let length = 0;
	const put = (part: Uint8Array): void => {
		parts.push(part);
		length += part.length;
	};
	const places = new Map<ZipEntry, number>();
	const inOrder = [...entries].sort((a, b) => a.from - b.from);
	put(bytes.subarray(0, inOrder[0]?.from ?? start));
	const changeOf = new Map(entries.map((entry, i) => [entry, changes.get(i)]));
	for (const entry of inOrder) {
		places.set(entry, length);
		const change = changeOf.get(entry);
		if (!change) {
			put(bytes.subarray(entry.from, entry.to));
			continue;
		}
		const names = view(entry.record).getUint16(28, true);
		const head = new Uint8Array(30 + names);
		head.set(bytes.subarray(entry.from, entry.from + 14));
		head.set(entry.record.subarray(46, 46 + names), 30);
		const to = view(head);
		writeSizes(to, 6, change);
		to.setUint16(26, names, true);
		to.setUint16(28, 0, true);
		put(head);
		put(change.packed);
	}
	const directory = length;
	for (const entry of entries) {
		const record = entry.record.slice();
		const change = changeOf.get(entry);
		if (change) writeSizes(view(record), 8, change);
		view(record).setUint32(42, places.get(entry) as number, true);
		put(record);
	}
	const tail = new Uint8Array(END_BYTES);
	const to = view(tail);
	to.setUint32(0, END, true);
	to.setUint16(8, entries.length, true);
	to.setUint16(10, entries.length, true);
	to.setUint32(12, length - directory, true);
	to.setUint32(16, directory, true);
	to.setUint16(20, comment.length, true);
	put(tail);
	put(comment);
	const out = new Uint8Array(length);
	let at = 0;
	for (const part of parts) {
		out.set(part, at);
		at += part.length;
	}
	return out;
}

/** Flags, method, check and sizes, which stand one after the other in both heads of a file. */
function writeSizes(to: DataView, at: number, { packed, size, crc }: ZipChange): void {
	// Sizes stand in the head, and nothing is encrypted; how the name is written stays as it was.
	to.setUint16(at, to.getUint16(at, true) & 0x800, true);
	to.setUint16(at + 2, 8, true);
	to.setUint32(at + 8, crc, true);
	to.setUint32(at + 12, packed.length, true);
	to.setUint32(at + 16, size, true);
}
