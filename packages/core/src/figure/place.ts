import { crossOf, type Figure, type FigureBox } from './figure.ts';

/** The first place of a figure's sheet, row by row, where a box's cross has room beside all others; null where none has. */
export function freePlace(
	{ sheet: [width, height], boxes }: Pick<Figure, 'sheet' | 'boxes'>,
	size: FigureBox['size'],
): readonly [number, number] | null {
	const taken = boxes.map(crossOf);
	const [, , w, h] = crossOf({ name: '', size, at: [0, 0, 0], place: [0, 0] });
	for (let y = 0; y + h <= height; y++)
		for (let x = 0; x + w <= width; x++)
			if (!taken.some(([u, v, wide, high]) => x < u + wide && u < x + w && y < v + high && v < y + h)) return [x, y];
	return null;
}
