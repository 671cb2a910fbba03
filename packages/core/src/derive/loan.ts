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
	/** What the steps before the one that is being changed made of them, where that is remembered. */
	readonly prefix: LentPrefix | null;
}

/** Fields by their tiles and the places that they stand for. */
export type PrefixFields = readonly (readonly [tile: number, place: string, field: Float32Array])[];

export interface LentPrefix {
	/** Steps that are done. */
	readonly count: number;
	readonly key: string;
	readonly fields: PrefixFields;
}

/** What somebody made of a loan: its tiles, and fields that are to be remembered. */
export interface ReturnedLoan {
	readonly tiles: readonly Returned[];
	readonly fields: PrefixFields;
}

/** What somebody made of a tile: its texels, null where it is empty; and the tiles over seams that it read. */
export interface Returned {
	readonly texels: Uint8Array | null;
	readonly far: readonly number[];
}
