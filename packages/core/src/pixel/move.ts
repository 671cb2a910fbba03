import type { Rect } from '../raster/index.ts';

/** A move of a box about its middle: by texels, scaled, then turned by degrees and slanted. */
export interface BoxMove {
	readonly box: Rect;
	readonly x: number;
	readonly y: number;
	readonly scaleX: number;
	readonly scaleY: number;
	readonly turn: number;
	readonly skew: number;
}

/** So many times as large, or a whole part of it; mirrored where it is below zero. */
function wholeScale(v: number): number {
	const [size, way] = [Math.abs(v), v < 0 ? -1 : 1];
	return way * (size >= 1 ? Math.round(size) : 1 / Math.round(1 / Math.max(size, 1 / 64)));
}

/**
 * A move as a pixel sheet holds it: whole sizes or whole parts, quarter turns, no slant, on whole texels. So each texel
 * becomes a block of texels, and none a piece of one.
 */
export function heldMove<M extends BoxMove>(move: M): M {
	const { box } = move;
	const [scaleX, scaleY] = [wholeScale(move.scaleX), wholeScale(move.scaleY)];
	const quarters = Math.round(move.turn / 90);
	const turn = ((((quarters + 2) % 4) + 4) % 4) * 90 - 180;
	const [w, h] = [Math.abs(box.width * scaleX), Math.abs(box.height * scaleY)];
	const [width, height] = quarters % 2 === 0 ? [w, h] : [h, w];
	/** Where its least border comes to, on a border between texels. */
	const at = (from: number, side: number, now: number, by: number): number => {
		const middle = from + side / 2;
		return Math.round(middle + by - now / 2) + now / 2 - middle;
	};
	return {
		...move,
		x: at(box.x, box.width, width, move.x),
		y: at(box.y, box.height, height, move.y),
		scaleX,
		scaleY,
		turn: turn === -180 ? 180 : turn,
		skew: 0,
	};
}
