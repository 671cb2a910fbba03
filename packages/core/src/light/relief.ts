import type { Ptr } from '@eppu/kernels';
import { among, real, type Shape, strict } from '../shape/index.ts';

/** How a layer stands out of the surface, or sinks into it: light that lies over it falls on it so. */
export interface Relief {
	/** What stands out: wherever there is paint, or the lighter its paint is. */
	readonly from: 'shape' | 'tone';
	/** How high, in hundredths of the model's size (of the sheet's longer side without one); below 0 it sinks. */
	readonly height: number;
	/** How far its rims are rounded, texels. */
	readonly soft: number;
}

export const MOST_HEIGHT = 8;
export const MOST_SOFT = 12;

export const reliefShape: Shape = strict({
	from: among(['shape', 'tone']),
	height: real(-MOST_HEIGHT, MOST_HEIGHT),
	soft: real(0, MOST_SOFT),
});

export const usualRelief: Relief = { from: 'shape', height: 1, soft: 1.5 };

type Vec = readonly [number, number, number];
const dot = (a: Vec, b: Vec): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const mixed = (a: Vec, by: number, b: Vec, and: number): Vec => [
	a[0] * by + b[0] * and,
	a[1] * by + b[1] * and,
	a[2] * by + b[2] * and,
];

/**
 * Which way, and how steeply, a height rises over a surface of which a texel across and a texel down are these ways: what
 * its change across and its change down are each to be multiplied by. Its normal leans away by the sum: M. Mikkelsen,
 * "Bump Mapping Unparametrized Surfaces on the GPU" (2010). Nothing rises where the two are one.
 */
export function risesOver(across: Vec, down: Vec): readonly [Vec, Vec] {
	const [e, f, g] = [dot(across, across), dot(across, down), dot(down, down)];
	const area = e * g - f * f;
	const over = area > 1e-12 ? 1 / area : 0;
	return [mixed(across, g * over, down, -f * over), mixed(down, e * over, across, -f * over)];
}

/** Numbers of a face in the table that `leanNormals` in kernels/assembly/shade.ts reads. */
export const RISES = 6;

/** A texel that is level, and the most that a slope is kept as either way: see `slopeWord`. */
export const LEVEL = 0x8000;
export const STEEPEST = 0x7fff;

/** Slopes of a rectangle's texels: a word each, and what a step of them is, in hundredths of the model's size a texel. */
export interface Slopes {
	readonly words: Ptr;
	readonly step: number;
}

const keptAs = (slope: number): number => LEVEL + Math.round(Math.min(1, Math.max(-1, slope)) * STEEPEST);

/** Slopes across and down, shares of the steepest, in one word: two numbers of 16 bits that are never 0. */
export const slopeWord = (across: number, down: number): number => (keptAs(across) | (keptAs(down) << 16)) >>> 0;
