import { TILE } from '../surface/index.ts';

/** Bytes of a tile's colours: what is made over and over again, and thrown away as often. */
const BYTES = TILE * TILE * 4;
const MOST = 4;

const spare: Uint8Array<ArrayBuffer>[] = [];
const taken = new WeakSet<Uint8Array>();

/** Room for texels, with whatever was in it. Whoever copies them out may give it back; nobody has to. */
export function takeTexels(bytes: number): Uint8Array<ArrayBuffer> {
	if (bytes !== BYTES) return new Uint8Array(bytes);
	const room = spare.pop() ?? new Uint8Array(BYTES);
	taken.add(room);
	return room;
}

/** Texels that nobody looks at any more: where they came from `takeTexels` their room is used again. */
export function giveTexels(texels: Uint8Array): void {
	// Handed over to another thread they have none.
	if (!taken.delete(texels) || texels.length !== BYTES || spare.length >= MOST) return;
	spare.push(texels as Uint8Array<ArrayBuffer>);
}
