import type { Shape } from '@eppu/core/select';
import type { Text } from '@eppu/core/text';
import type { Board } from './boards.ts';
import { alongLine } from './drawing.ts';

/** Px beside the middle of a box at which the board's ways across and down are asked for. */
const ASIDE = 4;

/** Shapes that say something to lettering when they are drawn with it chosen. */
export const ofLettering = (shape: Shape): boolean => shape.kind !== 'ellipse';

/**
 * What a shape drawn with lettering chosen makes of it: a rectangle is the box that its lines break to fit, standing as
 * it was drawn; a line or polygon is what it runs along. Null, and said, where that is not on one island of the sheet.
 */
export async function letteringBy(shape: Shape, board: Board): Promise<Partial<Text> | null> {
	if (shape.kind !== 'rectangle') {
		const along = await board.texelsAt(alongLine(shape));
		return along && { along };
	}
	const [cx, cy] = [shape.x + shape.width / 2, shape.y + shape.height / 2];
	const places = await board.texelsAt([cx, cy, cx + ASIDE, cy, cx, cy + ASIDE]);
	if (!places) return null;
	const [x, y, ax, ay, dx, dy] = places as [number, number, number, number, number, number];
	const [right, down] = [
		[ax - x, ay - y],
		[dx - x, dy - y],
	] as [[number, number], [number, number]];
	return {
		x,
		y,
		turn: Math.round((Math.atan2(-down[0], down[1]) * 1800) / Math.PI) / 10 + 0,
		mirrored: right[0] * down[1] - right[1] * down[0] < 0,
		box: Math.max(1, Math.round((Math.hypot(...right) / ASIDE) * Math.abs(shape.width))),
		along: null,
	};
}
