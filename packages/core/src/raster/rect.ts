/** A rectangle of whole texels. */
export interface Rect {
	readonly x: number;
	readonly y: number;
	readonly width: number;
	readonly height: number;
}

export const isEmptyRect = ({ width, height }: Rect): boolean => width <= 0 || height <= 0;

/** What two rectangles share; width or height 0 where they share nothing. */
export function meet(a: Rect, b: Rect): Rect {
	const [x, y] = [Math.max(a.x, b.x), Math.max(a.y, b.y)];
	return {
		x,
		y,
		width: Math.max(0, Math.min(a.x + a.width, b.x + b.width) - x),
		height: Math.max(0, Math.min(a.y + a.height, b.y + b.height) - y),
	};
}

/** The smallest rectangle around both; an empty one adds nothing. */
export function around(a: Rect, b: Rect): Rect {
	if (isEmptyRect(a)) return b;
	if (isEmptyRect(b)) return a;
	const [x, y] = [Math.min(a.x, b.x), Math.min(a.y, b.y)];
	return {
		x,
		y,
		width: Math.max(a.x + a.width, b.x + b.width) - x,
		height: Math.max(a.y + a.height, b.y + b.height) - y,
	};
}

/** Grown by so many texels on every side. */
export const grownRect = ({ x, y, width, height }: Rect, by: number): Rect => ({
	x: x - by,
	y: y - by,
	width: width + 2 * by,
	height: height + 2 * by,
});
