import type { Doing } from '../document/index.ts';
import type { SurfaceId, TexelFormat } from '../surface/index.ts';
import type { KeptTile } from './delta.ts';

/** A surface that the project does not name any more, but that a step brings back. */
export interface KeptSurface<T = KeptTile> {
	readonly id: SurfaceId;
	readonly format: TexelFormat;
	readonly width: number;
	readonly height: number;
	readonly tiles: readonly T[];
}

/** A step of the history as it outlives the tab: plain data. */
export interface KeptStep<T = KeptTile> {
	readonly words: string;
	readonly undo: readonly Doing[];
	readonly redo: readonly Doing[];
	readonly gesture?: string;
	/** What its tiles were before it. */
	readonly tiles: readonly T[];
	readonly surfaces: readonly KeptSurface<T>[];
}

/** A tile whose texels lie deflated. */
export interface StoredTile {
	readonly surface: SurfaceId;
	readonly index: number;
	readonly count: number;
	readonly value: number | null;
	readonly blob: Uint8Array | null;
}
