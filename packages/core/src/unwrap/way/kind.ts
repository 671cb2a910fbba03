import type { ChoiceOf, DialOf } from '../../shape/index.ts';
import type { Joints } from '../joints.ts';
import type { Piece } from '../piece.ts';

/** What faces of a model are laid flat from. */
export interface UnwrapGround {
	readonly joints: Joints;
	/** Edges that are to be cut, a byte a corner; a way may mark more. */
	readonly marks: Uint8Array;
	readonly faces: readonly number[];
	/** Hears how far it is, 0..1. */
	readonly tell: (share: number) => void;
}

/** Pieces laid flat, and how many cuts had to be made that were not asked for. */
export interface LaidFlat {
	readonly pieces: readonly Piece[];
	readonly cuts: number;
}

export interface UnwrapDoing {
	readonly way: string;
}

/** One way to lay faces flat. Whoever offers or does it reads this and knows none by name. */
export interface UnwrapKind<W extends UnwrapDoing> {
	readonly way: W['way'];
	/** As it is called on the screen, and what it is good for. */
	readonly words: string;
	readonly hint: string;
	readonly usual: W;
	readonly dials: readonly DialOf[];
	readonly choices: readonly ChoiceOf[];
	lay(way: W, ground: UnwrapGround): LaidFlat;
}
