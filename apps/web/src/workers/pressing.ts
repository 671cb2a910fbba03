import type { KeptTile } from '@eppu/core/engine';
import type { PackedTile } from '@eppu/core/format';

const hex = (bytes: ArrayBuffer): string =>
	Array.from(new Uint8Array(bytes), (b) => b.toString(16).padStart(2, '0')).join('');

/** A tile as it is packed: its texels deflated and hashed by the browser. */
export async function pressed({ surface, index, count = 1, value, texels }: KeptTile): Promise<PackedTile> {
	if (!texels) return { surface, index, count, value: value ?? 0, hash: null, blob: null };
	const stream = new Blob([texels]).stream().pipeThrough(new CompressionStream('deflate-raw'));
	const [hash, bytes] = await Promise.all([
		crypto.subtle.digest('SHA-256', texels),
		new Response(stream).arrayBuffer(),
	]);
	return { surface, index, count: 1, value: null, hash: hex(hash), blob: new Uint8Array(bytes) };
}

/** Tiles pressed, some at a time. */
export async function pressAll(tiles: readonly KeptTile[]): Promise<PackedTile[]> {
	const out: PackedTile[] = [];
	for (let at = 0; at < tiles.length; at += 64) out.push(...(await Promise.all(tiles.slice(at, at + 64).map(pressed))));
	return out;
}
