/** How a face shows: texel → homogeneous px of a view, as rows Xx, Xy, X1, Yx, Yy, Y1, Wx, Wy, W1. */
export type ScreenRows = readonly [number, number, number, number, number, number, number, number, number];

/** Where a texel of a face shows, px, and how many px a step of a texel goes: [dx/du, dx/dv, dy/du, dy/dv]. */
export function shownAt([Xx, Xy, X1, Yx, Yy, Y1, Wx, Wy, W1]: ScreenRows, u: number, v: number) {
	const W = Wx * u + Wy * v + W1;
	const x = (Xx * u + Xy * v + X1) / W;
	const y = (Yx * u + Yy * v + Y1) / W;
	const per = [(Xx - x * Wx) / W, (Xy - x * Wy) / W, (Yx - y * Wx) / W, (Yy - y * Wy) / W] as const;
	return { x, y, per };
}
