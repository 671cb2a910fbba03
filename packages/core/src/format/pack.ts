import { inflateSync } from 'fflate';

/** One tile in a pack: its surface, place, and one value, or the hash and length of its deflated texels. */
export interface PackedTile {
	readonly surface: string;
	readonly index: number;
	/** One value everywhere; 0 is an empty tile. Null where texels follow. */
	readonly value: number | null;
	/** SHA-256 of the raw texels, hex; null where a value stands for them. */
	readonly hash: string | null;
	/** Bytes of the deflated texels in the pack; 0 where none follow. */
	readonly length: number;
}

/** A pack: a head in JSON, tiles, and behind them the bytes of those that have any, in order. */
export interface Pack<Head> {
	readonly head: Head;
	readonly tiles: readonly PackedTile[];
	readonly blobs: readonly Uint8Array[];
}

const MAGIC = 0x31_4b_50_45; // "EPK1", little-endian
const MOST_HEAD = 32 * 1024 * 1024;

/** A pack that is not one; the text says what is wrong. */
export class PackError extends Error {
	override readonly name = 'PackError';
}

/** A pack as bytes: magic, length of the head, head, blobs. */
export function writePack<Head>(pack: Pack<Head>): Uint8Array<ArrayBuffer> {
	const head = new TextEncoder().encode(JSON.stringify({ head: pack.head, tiles: pack.tiles }));
	const out = new Uint8Array(8 + head.length + pack.blobs.reduce((sum, blob) => sum + blob.length, 0));
	const view = new DataView(out.buffer);
	view.setUint32(0, MAGIC, true);
	view.setUint32(4, head.length, true);
	out.set(head, 8);
	let at = 8 + head.length;
	for (const blob of pack.blobs) {
		out.set(blob, at);
		at += blob.length;
	}
	return out;
}

const isTile = (tile: unknown): tile is PackedTile => {
	const t = tile as PackedTile;
	return (
		typeof t === 'object' &&
		t !== null &&
		typeof t.surface === 'string' &&
		/^[A-Za-z0-9_-]{1,64}$/.test(t.surface) &&
		Number.isInteger(t.index) &&
		t.index >= 0 &&
		t.index < 1 << 16 &&
		(t.value === null
			? typeof t.hash === 'string' && /^[0-9a-f]{64}$/.test(t.hash) && Number.isInteger(t.length) && t.length > 0
			: Number.isInteger(t.value) && t.value >= 0 && t.value <= 0xffffffff && t.hash === null && t.length === 0)
	);
};

/** Reads a pack; throws PackError where the bytes are no pack or are cut short. The head's own shape is not checked. */
export function readPack<Head>(bytes: Uint8Array): Pack<Head> {
	const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
	if (bytes.length < 8 || view.getUint32(0, true) !== MAGIC) throw new PackError('These bytes are no pack.');
	const length = view.getUint32(4, true);
	if (length > MOST_HEAD || 8 + length > bytes.length) throw new PackError('The pack is cut short.');
	let parsed: { head: Head; tiles: unknown };
	try {
		// Views of shared memory are refused by TextDecoder; slice makes the copy plain.
		parsed = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes.slice(8, 8 + length)));
	} catch {
		throw new PackError('The head of the pack cannot be read.');
	}
	if (typeof parsed !== 'object' || parsed === null || !Array.isArray(parsed.tiles) || !parsed.tiles.every(isTile))
		throw new PackError('The head of the pack is not well formed.');
	let at = 8 + length;
	const blobs: Uint8Array[] = [];
	for (const tile of parsed.tiles as PackedTile[]) {
		if (tile.value !== null) continue;
		if (at + tile.length > bytes.length) throw new PackError('The pack is cut short.');
		blobs.push(bytes.subarray(at, at + tile.length));
		at += tile.length;
	}
	if (at !== bytes.length) throw new PackError('The pack has bytes left over.');
	return { head: parsed.head, tiles: parsed.tiles as PackedTile[], blobs };
}

/** A tile's raw texels from its deflated bytes: at once, since a project has thousands of them. Throws on bad bytes. */
export const inflateTexels = (blob: Uint8Array): Uint8Array<ArrayBuffer> =>
	inflateSync(blob) as Uint8Array<ArrayBuffer>;
