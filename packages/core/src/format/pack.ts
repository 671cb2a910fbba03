import { joined } from '../surface/index.ts';
/** Tiles in a pack that lie one after the other on a surface: one value for all, or the deflated texels of one. */
export interface PackedTile {
	readonly surface: string;
	readonly index: number;
	/** How many tiles from `index` on have this value; 1 where texels follow. */
	readonly count: number;
	/** One value everywhere; 0 is an empty tile. Null where texels follow. */
	readonly value: number | null;
	/** SHA-256 of the raw texels, hex; null where a value stands for them. */
	readonly hash: string | null;
	/** The deflated texels; null where a value stands for them. */
	readonly blob: Uint8Array | null;
	/** The texels in `blob` are as they are, not deflated: so they come from the server of the same machine. */
	readonly bare?: boolean;
}

/** A pack as one: a head in JSON, tiles (later ones count where two say something of the same), and whole files. */
export interface Pack<Head> {
	readonly head: Head;
	readonly tiles: readonly PackedTile[];
	/** Bytes of the files that the head names, one after the other. */
	readonly files: Uint8Array;
}

/** What a reader finds in the order in which it stands in the pack. */
export type PackPart<Head> =
	| { readonly part: 'head'; readonly head: Head }
	| { readonly part: 'tiles'; readonly tiles: readonly PackedTile[] }
	| { readonly part: 'files'; readonly bytes: Uint8Array };

const MAGIC = 0x32_4b_50_45; // "EPK2", little-endian
const Chunk = { end: 0, head: 1, tiles: 2, files: 3 } as const;
/** How an entry of a chunk of tiles says its texels. */
const Entry = { value: 0, deflated: 1, bare: 2 } as const;
/** Bytes of the largest chunk: what a reader may have to hold at once. Writers keep to it as readers do. */
export const MOST_CHUNK = 32 * 1024 * 1024;
/** Bytes of the largest pack that is written or taken. */
export const MOST_PACK = 2 * 1024 * 1024 * 1024 - 1;
/** Tiles of the largest surface, and so the end of every run. */
const MOST_TILES = 1 << 16;
/** So many tiles with texels stand in a chunk, so that it is sent and read a piece at a time. */
const TILES_A_CHUNK = 32;
const VALUES_A_CHUNK = 4096;
const FILE_PIECE = 1024 * 1024;

/** A pack that is not one, or would be too large; the text says what is wrong. */
export class PackError extends Error {
	override readonly name = 'PackError';
}

const chunkOf = (type: number, payload: Uint8Array): Uint8Array<ArrayBuffer> => {
	if (payload.length > MOST_CHUNK)
		throw new PackError(
			`One piece of the work comes to ${Math.ceil(payload.length / 1048576)} MB; ${MOST_CHUNK / 1048576} MB is the most.`,
		);
	const out = new Uint8Array(5 + payload.length);
	new DataView(out.buffer).setUint32(0, payload.length, true);
	out[4] = type;
	out.set(payload, 5);
	return out;
};

const bytesOfHash = (hash: string): Uint8Array =>
	Uint8Array.from({ length: 32 }, (_, i) => Number.parseInt(hash.slice(i * 2, i * 2 + 2), 16));
const hexOf = (bytes: Uint8Array): string => {
	let out = '';
	for (const byte of bytes) out += byte.toString(16).padStart(2, '0');
	return out;
};

/** The beginning of a pack. Throws PackError where the head is larger than a chunk may be. */
export function packHead(head: unknown): Uint8Array<ArrayBuffer> {
	const chunk = chunkOf(Chunk.head, new TextEncoder().encode(JSON.stringify(head)));
	const out = new Uint8Array(4 + chunk.length);
	new DataView(out.buffer).setUint32(0, MAGIC, true);
	out.set(chunk, 4);
	return out;
}

/** The end of a pack: one without it was cut short. */
export const packEnd = (): Uint8Array<ArrayBuffer> => chunkOf(Chunk.end, new Uint8Array(0));

function tileChunk(surface: string, tiles: readonly PackedTile[]): Uint8Array<ArrayBuffer> {
	const id = new TextEncoder().encode(surface);
	const index = tiles.reduce((sum, tile) => sum + (tile.blob ? 41 : 13), 1 + id.length + 2);
	const out = new Uint8Array(index + tiles.reduce((sum, tile) => sum + (tile.blob?.length ?? 0), 0));
	const view = new DataView(out.buffer);
	out[0] = id.length;
	out.set(id, 1);
	view.setUint16(1 + id.length, tiles.length, true);
	let at = 3 + id.length;
	let blobs = index;
	for (const { index: place, count, value, hash, blob, bare } of tiles) {
		out[at] = !blob ? Entry.value : bare ? Entry.bare : Entry.deflated;
		view.setUint32(at + 1, place, true);
		if (blob) {
			out.set(bytesOfHash(hash as string), at + 5);
			view.setUint32(at + 37, blob.length, true);
			out.set(blob, blobs);
			blobs += blob.length;
			at += 41;
		} else {
			view.setUint32(at + 5, count, true);
			view.setUint32(at + 9, value ?? 0, true);
			at += 13;
		}
	}
	return chunkOf(Chunk.tiles, out);
}

/** Tiles as chunks of a pack; neighbours with one value become one entry. */
export function* packTiles(tiles: Iterable<PackedTile>): Generator<Uint8Array<ArrayBuffer>> {
	let list: PackedTile[] = [];
	let blobs = 0;
	for (const tile of tiles) {
		const last = list.at(-1);
		if (last && (last.surface !== tile.surface || blobs >= TILES_A_CHUNK || list.length >= VALUES_A_CHUNK)) {
			yield tileChunk(last.surface, list);
			list = [];
			blobs = 0;
		}
		const before = list.at(-1);
		if (
			before &&
			!before.blob &&
			!tile.blob &&
			before.value === tile.value &&
			before.index + before.count === tile.index
		)
			list[list.length - 1] = { ...before, count: before.count + tile.count };
		else list.push(tile);
		if (tile.blob) blobs++;
	}
	const last = list.at(-1);
	if (last) yield tileChunk(last.surface, list);
}

/** Bytes of files as chunks of a pack. */
export function* packFiles(bytes: Uint8Array): Generator<Uint8Array<ArrayBuffer>> {
	for (let at = 0; at < bytes.length; at += FILE_PIECE) yield chunkOf(Chunk.files, bytes.subarray(at, at + FILE_PIECE));
}

/** A whole pack as bytes. Throws PackError where it would be larger than one may be. */
export function writePack<Head>({ head, tiles, files }: Partial<Pack<Head>>): Uint8Array<ArrayBuffer> {
	const list = [packHead(head), ...packTiles(tiles ?? []), ...packFiles(files ?? new Uint8Array(0)), packEnd()];
	const length = list.reduce((sum, each) => sum + each.length, 0);
	if (length > MOST_PACK) throw new PackError(`The work comes to ${Math.ceil(length / 1048576)} MB; 2 GB is the most.`);
	return joined(list);
}

function readTiles(bytes: Uint8Array): PackedTile[] {
	const broken = (): never => {
		throw new PackError('The tiles of the pack are not well formed.');
	};
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	const id = bytes[0] ?? 0;
	if (id < 1 || id > 64 || bytes.length < 3 + id) broken();
	const surface = String.fromCharCode(...bytes.subarray(1, 1 + id));
	if (!/^[A-Za-z0-9_-]+$/.test(surface)) broken();
	const entries = view.getUint16(1 + id, true);
	const out: PackedTile[] = [];
	const lengths: number[] = [];
	let at = 3 + id;
	for (let i = 0; i < entries; i++) {
		const kind = bytes[at];
		if (kind === undefined || kind > Entry.bare || at + (kind ? 41 : 13) > bytes.length) broken();
		const index = view.getUint32(at + 1, true);
		const count = kind ? 1 : view.getUint32(at + 5, true);
		if (count < 1 || index + count > MOST_TILES) broken();
		if (kind) {
			const hash = hexOf(bytes.subarray(at + 5, at + 37));
			const tile = { surface, index, count, value: null, hash, blob: null };
			out.push(kind === Entry.bare ? { ...tile, bare: true } : tile);
			lengths.push(view.getUint32(at + 37, true));
			if (lengths.at(-1) === 0) broken();
			at += 41;
		} else {
			out.push({ surface, index, count, value: view.getUint32(at + 9, true), hash: null, blob: null });
			at += 13;
		}
	}
	let next = 0;
	const full = out.map((tile) => {
		if (tile.hash === null) return tile;
		const length = lengths[next++] as number;
		if (at + length > bytes.length) broken();
		at += length;
		return { ...tile, blob: bytes.subarray(at - length, at) };
	});
	if (at !== bytes.length) broken();
	return full;
}

/** Reads a pack as its bytes come. */
export interface PackReader<Head> {
	/** What is whole with these bytes; throws PackError where they are no pack. Blobs are views of what was pushed or held. */
	push(bytes: Uint8Array): PackPart<Head>[];
	/** Throws PackError where the pack was cut short. */
	end(): void;
}

export function createPackReader<Head>(): PackReader<Head> {
	let held: Uint8Array = new Uint8Array(0);
	/** Pieces that are waited for until they make a chunk. */
	let pieces: Uint8Array[] = [];
	let waiting = 0;
	let begun = false;
	let headed = false;
	let ended = false;
	const partOf = (type: number, payload: Uint8Array): PackPart<Head> | null => {
		if (type === Chunk.head && !headed) {
			headed = true;
			try {
				// Views of shared memory are refused by TextDecoder; slice makes the copy plain.
				return { part: 'head', head: JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(payload.slice())) };
			} catch {
				throw new PackError('The head of the pack cannot be read.');
			}
		}
		if (type === Chunk.end && headed && payload.length === 0) {
			ended = true;
			return null;
		}
		if (type === Chunk.tiles && headed) return { part: 'tiles', tiles: readTiles(payload) };
		if (type === Chunk.files && headed) return { part: 'files', bytes: payload };
		throw new PackError('The pack is not well formed.');
	};
	return {
		push(bytes) {
			pieces.push(bytes);
			waiting += bytes.length;
			const need = (): number => {
				if (!begun) return 4;
				if (held.length < 5) return 5;
				return 5 + new DataView(held.buffer, held.byteOffset).getUint32(0, true);
			};
			const out: PackPart<Head>[] = [];
			while (true) {
				if (held.length < need() && held.length + waiting >= need()) {
					held = joined([held, ...pieces]);
					pieces = [];
					waiting = 0;
				}
				if (held.length < need()) return out;
				if (!begun) {
					if (new DataView(held.buffer, held.byteOffset).getUint32(0, true) !== MAGIC)
						throw new PackError('These bytes are no pack.');
					begun = true;
					held = held.subarray(4);
					continue;
				}
				if (ended) throw new PackError('The pack has bytes left over.');
				const length = need() - 5;
				if (length > MOST_CHUNK) throw new PackError('The pack is not well formed.');
				if (held.length < 5 + length) {
					if (held.length + waiting < 5 + length) return out;
					continue;
				}
				const part = partOf(held[4] as number, held.subarray(5, 5 + length));
				held = held.subarray(5 + length);
				if (part) out.push(part);
				if (ended && held.length + waiting > 0) throw new PackError('The pack has bytes left over.');
			}
		},
		end() {
			if (!begun && held.length + waiting < 4) throw new PackError('These bytes are no pack.');
			if (!ended) throw new PackError('The pack is cut short.');
		},
	};
}

/** Reads a whole pack; throws PackError where the bytes are no pack or are cut short. The head's own shape is not checked. */
export function readPack<Head>(bytes: Uint8Array): Pack<Head> {
	const reader = createPackReader<Head>();
	const parts = reader.push(bytes);
	reader.end();
	return {
		head: parts.flatMap((part) => (part.part === 'head' ? [part.head] : []))[0] as Head,
		tiles: parts.flatMap((part) => (part.part === 'tiles' ? part.tiles : [])),
		files: joined(parts.flatMap((part) => (part.part === 'files' ? [part.bytes] : []))),
	};
}
