import type { KeptTile, StoredTile } from '@eppu/core/engine';
import type { PackedTile } from '@eppu/core/format';

const hex = (bytes: ArrayBuffer): string =>
	Array.from(new Uint8Array(bytes), (b) => b.toString(16).padStart(2, '0')).join('');

async function deflatedTexels(texels: Uint8Array<ArrayBuffer>): Promise<Uint8Array<ArrayBuffer>> {
	const stream = new Blob([texels]).stream().pipeThrough(new CompressionStream('deflate-raw'));
	return new Uint8Array(await new Response(stream).arrayBuffer());
}

/** A tile as it is packed: its texels deflated and hashed by the browser. */
export async function pressed({ surface, index, count = 1, value, texels }: KeptTile): Promise<PackedTile> {
	if (!texels) return { surface, index, count, value: value ?? 0, hash: null, blob: null };
	const [hash, blob] = await Promise.all([crypto.subtle.digest('SHA-256', texels), deflatedTexels(texels)]);
	return { surface, index, count: 1, value: null, hash: hex(hash), blob };
}

/** Does something with each of a list, some at a time. */
async function someAtATime<A, B>(list: readonly A[], work: (each: A) => Promise<B>): Promise<B[]> {
	const out: B[] = [];
	for (let at = 0; at < list.length; at += 64) out.push(...(await Promise.all(list.slice(at, at + 64).map(work))));
	return out;
}

/** Tiles pressed for a pack. */
export const pressAll = (tiles: readonly KeptTile[]): Promise<PackedTile[]> => someAtATime(tiles, pressed);

/** Tiles deflated for the browser's own store. */
export const deflated = (tiles: readonly KeptTile[]): Promise<StoredTile[]> =>
	someAtATime(tiles, async ({ surface, index, count = 1, value, texels }) => ({
		surface,
		index,
		count,
		value,
		blob: texels && (await deflatedTexels(texels)),
	}));
