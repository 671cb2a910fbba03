import type { PngWriter } from '@eppu/kernels';
import type { Picture } from '../surface/index.ts';
import { type Numbers, pictureAsPng } from './png.ts';

/**
 * A file that pictures go into: `take` is given each of them, to be written as PNG by whoever has a hand free, and says
 * its number; what comes back puts the file together once all are written.
 */
export type Plan<T> = (take: (picture: Picture | Numbers) => number) => (pngs: readonly Uint8Array[]) => T;

/** A planned file, all of it written here. */
export function planned<T>(write: PngWriter, plan: Plan<T>): T {
	const pngs: Uint8Array[] = [];
	return plan((picture) => pngs.push(pictureAsPng(write, picture)) - 1)(pngs);
}
