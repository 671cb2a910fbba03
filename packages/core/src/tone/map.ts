import type { ColorChange } from '../color/index.ts';

/** How kernels take a change: a table of 256 entries of red, green, blue, by channel or by tone, or a change of colours that
 * becomes a cube of them. */
export type ToneMap =
	| { readonly kind: 'channels' | 'tone'; readonly table: Uint8Array }
	| { readonly kind: 'cube'; readonly change: ColorChange };

export const clamp = (v: number): number => Math.min(1, Math.max(0, v));

/** A map of each channel by itself: 0..1 to 0..1. */
export const channels = (f: (v: number, channel: number) => number): ToneMap => ({
	kind: 'channels',
	table: Uint8Array.from({ length: 768 }, (_, i) => Math.round(255 * clamp(f(Math.floor(i / 3) / 255, i % 3)))),
});
