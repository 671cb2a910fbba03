/** A dab in its target's own space: texels on a sheet, px through a view. */
export interface Dab {
	readonly x: number;
	readonly y: number;
	readonly radius: number;
	/** 0 soft to the middle .. 1 a hard rim (one px of smoothing stays). */
	readonly edge: number;
	/** 0..1 */
	readonly strength: number;
}

/** 1/(soft width): at least one px or texel of rim, so that hard tips stay smooth. */
export const slopeOf = (radius: number, edge: number): number => 1 / Math.max(1, (1 - edge) * radius);

/** A line a·x + b·y = c, a and b a unit vector ahead. */
export type Line = readonly [a: number, b: number, c: number];

export const nothingBehind: Line = [0, 0, 0];

/**
 * The line half way from the dab before: every place behind it is nearer to that dab, so where that is no smaller and
 * no weaker nothing is to be done there.
 */
export function lineBehind(dab: Dab, before: Dab | undefined): Line {
	if (!before || before.edge !== dab.edge || before.radius < dab.radius || before.strength < dab.strength)
		return nothingBehind;
	const dx = dab.x - before.x;
	const dy = dab.y - before.y;
	const length = Math.sqrt(dx * dx + dy * dy);
	if (length < 0.01) return nothingBehind;
	return [dx / length, dy / length, (dx * (dab.x + before.x) + dy * (dab.y + before.y)) / (2 * length)];
}
