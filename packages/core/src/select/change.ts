import type { Kernels } from '@eppu/kernels';
import { blurField, grownField, signedDistances } from '../raster/index.ts';

/** How a new selection joins the one that is there. */
export type Joining = 'replace' | 'add' | 'take' | 'meet';

/** What can be done with a selection at once. */
export type SelectionChange =
	| { readonly to: 'inverse' | 'all' | 'none' }
	/** By so many texels; below 0 it shrinks. */
	| { readonly to: 'grown'; readonly by: number }
	/** Blurred with a standard deviation of so many texels. */
	| { readonly to: 'soft'; readonly by: number }
	/** A band of so many texels on its border, half inside. */
	| { readonly to: 'border'; readonly by: number };

/** Joins A8 values; both are of one length. */
export function joined(was: Uint8Array, add: Uint8Array, how: Joining): Uint8Array {
	const out = new Uint8Array(was.length);
	for (let i = 0; i < out.length; i++) {
		const a = was[i] as number;
		const b = add[i] as number;
		out[i] =
			how === 'replace' ? b : how === 'add' ? Math.max(a, b) : how === 'take' ? Math.min(a, 255 - b) : Math.min(a, b);
	}
	return out;
}

/** Whether a value between none and all lies among such: the cells of a hard border stand in a thin line. */
function isSoft(tone: Uint8Array, width: number): boolean {
	const between = (v: number | undefined): boolean => v !== undefined && v > 0 && v < 255;
	return tone.some((v, i) => {
		if (!between(v) || i % width === 0 || i % width === width - 1) return false;
		return between(tone[i - 1]) && between(tone[i + 1]) && between(tone[i - width]) && between(tone[i + width]);
	});
}

/** A selection changed as a whole: A8 of width by height. */
export function changedSelection(
	kernels: Kernels,
	tone: Uint8Array,
	width: number,
	height: number,
	change: SelectionChange,
): Uint8Array {
	switch (change.to) {
		case 'all':
			return new Uint8Array(tone.length).fill(255);
		case 'none':
			return new Uint8Array(tone.length);
		case 'inverse':
			return tone.map((v) => 255 - v);
		case 'soft': {
			const field = blurField(Float32Array.from(tone), width, height, change.by);
			return Uint8Array.from(field, (v) => Math.round(Math.min(255, Math.max(0, v))));
		}
		case 'grown':
		case 'border': {
			// Distances tell of hard borders only: what is soft grows as it is.
			if (change.to === 'grown' && isSoft(tone, width))
				return Uint8Array.from(
					grownField(
						kernels,
						Float32Array.from(tone, (v) => v / 255),
						width,
						height,
						change.by,
					),
					(v) => Math.round(v * 255),
				);
			const distances = signedDistances(tone, width, height);
			const edge = (d: number): number => Math.round(255 * Math.min(1, Math.max(0, 0.5 - d)));
			return Uint8Array.from(distances, (d) =>
				change.to === 'grown' ? edge(d - change.by) : edge(Math.abs(d) - change.by / 2),
			);
		}
	}
}
