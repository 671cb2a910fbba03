import type { Id } from '../document/index.ts';
import type { Surface, SurfaceId } from '../surface/index.ts';

/** Tiles of a computed surface that somebody else computes. */
export interface Loan {
	readonly n: number;
	readonly sheet: Id;
	readonly surface: SurfaceId;
	readonly tiles: readonly number[];
	readonly draft: boolean;
	/** What they are computed from. */
	readonly inputs: readonly Surface[];
}

/** What somebody made of a tile: its texels, null where it is empty; and the tiles over seams that it read. */
export interface Returned {
	readonly texels: Uint8Array | null;
	readonly far: readonly number[];
}
