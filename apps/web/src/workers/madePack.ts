import type { FarReads, Made } from '@eppu/core/engine';
import { joined } from '@eppu/core/surface';

/** What stands before the texels: of each tile where it is, its value, and how many bytes of texels it has. */
interface Head {
	readonly far: FarReads;
	readonly tiles: readonly (readonly [index: number, count: number, value: number | null, bytes: number])[];
}

/** Bytes sent through a stream piece by piece: a blob would go to another process and back. */
async function through(
	bytes: Uint8Array<ArrayBuffer>,
	by: CompressionStream | DecompressionStream,
): Promise<Uint8Array<ArrayBuffer>> {
	const writer = by.writable.getWriter();
	const written = writer.write(bytes).then(() => writer.close());
	// Bytes that are none are told by what reads them.
	written.catch(() => {});
	const pieces: Uint8Array[] = [];
	const reader = by.readable.getReader();
	for (let next = await reader.read(); !next.done; next = await reader.read()) pieces.push(next.value);
	await written;
	return joined(pieces);
}

/** A computed surface as the browser's own store keeps it: in one stream, which the browser inflates by itself and fast. */
export function packMade({ far, tiles }: Made): Promise<Uint8Array<ArrayBuffer>> {
	const head: Head = {
		far,
		tiles: tiles.map(({ index, count = 1, value, texels }) => [index, count, value, texels?.length ?? 0]),
	};
	const said = new TextEncoder().encode(JSON.stringify(head));
	const length = new Uint8Array(Uint32Array.of(said.length).buffer);
	const texels = tiles.flatMap((tile) => tile.texels ?? []);
	return through(joined([length, said, ...texels]), new CompressionStream('gzip'));
}

/** The surface again. Rejects on bytes that are none. */
export async function unpackMade(pack: Uint8Array<ArrayBuffer>): Promise<Made> {
	const bytes = await through(pack, new DecompressionStream('gzip'));
	const length = new DataView(bytes.buffer).getUint32(0, true);
	const { far, tiles } = JSON.parse(new TextDecoder().decode(bytes.subarray(4, 4 + length))) as Head;
	let at = 4 + length;
	return {
		far,
		tiles: tiles.map(([index, count, value, size]) => ({
			surface: '',
			index,
			count,
			value,
			texels: size ? bytes.subarray(at, (at += size)) : null,
		})),
	};
}
