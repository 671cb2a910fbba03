import type { DitherName, Mixing } from '@eppu/core/pixel';
import type { Pencil } from '@eppu/core/stroke';
import { drawsTexels, pots, type StudioState } from '../studio/store.ts';

/** The pattern in which texels are laid now; null lays all. */
export function mixingNow(state: StudioState): Mixing | null {
	const { dither, share, between } = state.pixeling;
	return dither ? { dither, share, between: between ? pots(state).back : null } : null;
}

/** The pattern between the colours of a gradient; null where they are mixed. */
export const ditherNow = (state: StudioState): DitherName | null =>
	drawsTexels(state) ? (state.pixeling.dither ?? 'ordered-4') : null;

/** The pencil of the next stroke; null where dabs are laid. */
export function pencilNow(state: StudioState, tool: string): Pencil | null {
	if (!drawsTexels(state)) return null;
	const { size, corners } = state.pixeling;
	return { size, corners, mixing: tool === 'draw' || tool === 'wipe' ? mixingNow(state) : null };
}
