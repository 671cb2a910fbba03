/** A place on a sheet or in a plane. */
export type FlatPlace = readonly [number, number];

/** The shares that a triangle's corners have in a place of its plane, also outside of it; null where it has no area. */
export function sharesOf(
	[ax, ay]: FlatPlace,
	[bx, by]: FlatPlace,
	[cx, cy]: FlatPlace,
	x: number,
	y: number,
): [number, number, number] | null {
	const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
	if (area === 0) return null;
	const v = ((x - ax) * (cy - ay) - (cx - ax) * (y - ay)) / area;
	const w = ((bx - ax) * (y - ay) - (x - ax) * (by - ay)) / area;
	return [1 - v - w, v, w];
}
