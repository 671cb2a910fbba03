import type { Ptr } from '@eppu/kernels';

/** A square A8 picture in the kernels' memory, with smaller versions of it, each half of the one before. */
export interface TipPicture {
	readonly side: number;
	readonly levels: readonly Ptr[];
	/** A hard square that covers whole texels on a sheet. */
	readonly pixel: boolean;
}

/** A dab in its target's own space: texels on a sheet, px through a view. */
export interface Dab {
	readonly x: number;
	readonly y: number;
	/** Half of the longer axis. */
	readonly radius: number;
	/** 0 soft to the middle .. 1 a hard rim (one px of smoothing stays). */
	readonly edge: number;
	/** 0..1 */
	readonly strength: number;
	/** Short axis over long axis, 0.05..1. */
	readonly roundness: number;
	/** Of the long axis, radians, clockwise on the screen. */
	readonly angle: number;
	/** The tip's tone; null is a disc. */
	readonly picture: TipPicture | null;
	/** The picture is mirrored across its long axis. */
	readonly flip: boolean;
	/** RGB packed as r | g << 8 | b << 16 where the dab has a colour of its own; null takes the stroke's. */
	readonly color: number | null;
}

export const plainDab = (x: number, y: number, radius: number, edge: number, strength: number): Dab => ({
	x,
	y,
	radius,
	edge,
	strength,
	roundness: 1,
	angle: 0,
	picture: null,
	flip: false,
	color: null,
});

/** 1/(soft width): at least one px or texel of rim, so that hard tips stay smooth. */
export const slopeOf = (radius: number, edge: number): number => 1 / Math.max(1, (1 - edge) * radius);

/** Two axes as kernels take them: u = ux·dx + uy·dy, v = vx·dx + vy·dy. */
export type Axes = readonly [ux: number, uy: number, vx: number, vy: number];

/** Along a dab's own axes, the short one stretched to the long one's measure and all multiplied by `scale`. */
export function axesOf(dab: Dab, scale = 1): Axes {
	const [c, s] = [Math.cos(dab.angle) * scale, Math.sin(dab.angle) * scale];
	const across = (dab.flip ? -1 : 1) / dab.roundness;
	return [c, s, -s * across, c * across];
}

/** A line a·x + b·y = c, a and b a unit vector ahead. */
export type Line = readonly [a: number, b: number, c: number];

export const nothingBehind: Line = [0, 0, 0];

/**
 * The line half way from the dab before: every place behind it is nearer to that dab, so where that is a disc no
 * smaller and no weaker nothing is to be done there.
 */
export function lineBehind(dab: Dab, before: Dab | undefined): Line {
	if (
		!before ||
		dab.picture ||
		dab.color !== null ||
		dab.roundness !== 1 ||
		before.roundness !== 1 ||
		before.edge !== dab.edge ||
		before.radius < dab.radius ||
		before.strength < dab.strength
	)
		return nothingBehind;
	const dx = dab.x - before.x;
	const dy = dab.y - before.y;
	const length = Math.sqrt(dx * dx + dy * dy);
	if (length < 0.01) return nothingBehind;
	return [dx / length, dy / length, (dx * (dab.x + before.x) + dy * (dab.y + before.y)) / (2 * length)];
}
