import { inflateSync } from 'fflate';
import { tileBytes } from './format.ts';

/** More than any tile has: what would be longer is seen to be. */
const ROOM = tileBytes('color') + 64;
const room = new Uint8Array(ROOM);

/**
 * A tile's raw texels from its deflated bytes: at once, since a project has thousands of them. Throws on bad bytes; those
 * of more than a tile come back longer than one.
 */
export const inflateTexels = (blob: Uint8Array): Uint8Array<ArrayBuffer> => inflateSync(blob, { out: room }).slice();
