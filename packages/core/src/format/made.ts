import type { FarReads, Made } from '../engine/index.ts';
import { inflateTexels } from '../surface/index.ts';
import { PackError, type PackedTile, readPack, writePack } from './pack.ts';

/** The name that stands in the pack for whichever surface it is put under. */
const SURFACE = 'made';

/** A computed surface as the bytes that are kept of it. */
export const packMade = ({ tiles, far }: Made<PackedTile>): Uint8Array<ArrayBuffer> =>
	writePack({ head: { far }, tiles: tiles.map((tile) => ({ ...tile, surface: SURFACE })) });

const isFar = (far: unknown): far is FarReads =>
	Array.isArray(far) &&
	far.every(
		(each) =>
			Array.isArray(each) && Number.isInteger(each[0]) && Array.isArray(each[1]) && each[1].every(Number.isInteger),
	);

/** A computed surface from its bytes, its tiles still packed; throws PackError where they are none. */
export function readMade(bytes: Uint8Array): Made<PackedTile> {
	const { head, tiles } = readPack<{ far?: unknown }>(bytes);
	if (!isFar(head?.far)) throw new PackError('What was kept of a computed picture is not well formed.');
	return { far: head.far, tiles };
}

/** The same with its tiles inflated. */
export function unpackMade(bytes: Uint8Array): Made {
	const { far, tiles } = readMade(bytes);
	return {
		far,
		tiles: tiles.map(({ surface, index, count, value, blob }) => ({
			surface,
			index,
			count,
			value,
			texels: blob ? inflateTexels(blob) : null,
		})),
	};
}
