import type { Id } from '@eppu/core/document';
import type { Dirty, Edited, Engine } from '@eppu/core/engine';
import type { Pool } from '@eppu/core/jobs';
import type { Camera } from '@eppu/core/projection';
import type { FromStudio, Pointing, ToStudio } from '../../studio/protocol.ts';
import type { Outline } from '../../studio/told.ts';
import type { Pump } from '../pump.ts';
import type { Settling } from '../settling.ts';

/** How long a change waits for others to be kept with it: the journal has it already. */
export const KEEP_MS = 400;

/** What those who hear work with: the open project, and what follows from a change of it. */
export interface Studio {
	readonly engine: Engine;
	readonly pool: Pool | null;
	readonly pump: Pump;
	readonly settling: Settling;
	/** The files that the open project was made from, by their hash. */
	readonly files: ReadonlyMap<string, Uint8Array<ArrayBuffer>>;
	tell(message: FromStudio, transfer?: Transferable[]): void;
	/** Whether the project is still the open one. */
	current(): boolean;
	outline(): Outline;
	/** After a change: shows it, and has it kept a moment later. */
	changed(dirty: Dirty, soon?: number): void;
	/** Shows what an edit changed, or says why it did not. */
	edited(result: Edited): void;
	/** Has what changed kept a moment later; what comes after does not put it off. */
	keepSoon(soon: number): void;
	keepNow(): void;
	/** A stroke began with this word. */
	strokeBegins(n: number | undefined): void;
	endStroke(): void;
	/** The model was seen from here: what the cover shows. */
	seenFrom(camera: Camera): void;
}

/** Hears one thing that the page says. */
export interface Ear<S extends ToStudio['say']> {
	/** It ends the stroke that is being made. */
	readonly endsStroke?: true;
	hear(at: Studio, message: Extract<ToStudio, { readonly say: S }>, n: number | undefined): void;
}
export type Ears<S extends ToStudio['say']> = { readonly [K in S]: Ear<K> };

/** Where a pointing lands on a sheet, in texels. */
export function landing(
	open: Engine,
	place: Pointing,
): { readonly sheet: Id; readonly x: number; readonly y: number } | null {
	if (place.on === 'sheet') return { sheet: place.sheet, x: place.x, y: place.y };
	const spot = open.scene(place.model)?.spotAt(open.project.sheets, place.sight, place.x, place.y);
	return spot ? { sheet: spot.sheet, x: spot.x, y: spot.y } : null;
}
