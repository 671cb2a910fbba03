import { type Hex, oklabOfSrgb, rgbOfHex, srgbOfOklab } from '../color/index.ts';
import type { Rect } from '../raster/index.ts';
import { among, hex, list, one, type Shape, strict, whole, words } from '../shape/index.ts';

/** A cell of a colour grid: where it stands, and what is in it. */
export interface Cell {
	/** Counted from the upper left: its place for ever, unless it is moved. */
	readonly col: number;
	readonly row: number;
	readonly name: string;
	/** One colour, or several from its upper end, or its left one, to the other. */
	readonly colors: readonly Hex[];
	/** One colour; a ramp of steps; or colours that go over into each other. */
	readonly of: 'flat' | 'ramp' | 'blend';
	readonly along: 'down' | 'across';
}

/** A sheet of cells, so many across and down. Places without a cell are spare. */
export interface Cells {
	readonly fill: 'cells';
	readonly cols: number;
	readonly rows: number;
	readonly cells: readonly Cell[];
}

/** Cells along a side at the most. */
export const MOST_CELLS = 64;

export const cellsShape: Shape = strict({
	fill: one('cells'),
	cols: whole(1, MOST_CELLS),
	rows: whole(1, MOST_CELLS),
	cells: list(
		strict({
			col: whole(0, MOST_CELLS - 1),
			row: whole(0, MOST_CELLS - 1),
			name: words(1, 60),
			colors: list(hex, 16, 1),
			of: among(['flat', 'ramp', 'blend']),
			along: among(['down', 'across']),
		}),
		MOST_CELLS * MOST_CELLS,
	),
});

/** The cell of a place; undefined where it is spare. */
export const cellAt = ({ cells }: Cells, col: number, row: number): Cell | undefined =>
	cells.find((cell) => cell.col === col && cell.row === row);

/** A cell's colour at a share 0..1 along it, red, green and blue 0..255. */
export function cellColor({ colors, of }: Cell, share: number): readonly [number, number, number] {
	const last = colors.length - 1;
	if (of === 'flat' || last === 0) return rgbOfHex(colors[0] as Hex);
	if (of === 'ramp') return rgbOfHex(colors[Math.min(last, Math.floor(share * colors.length))] as Hex);
	const place = Math.min(1, Math.max(0, share)) * last;
	const k = Math.min(last - 1, Math.floor(place));
	const [a, b] = [colors[k], colors[k + 1]].map((color) => {
		const [r, g, bl] = rgbOfHex(color as Hex);
		return oklabOfSrgb(r / 255, g / 255, bl / 255);
	}) as unknown as [readonly number[], readonly number[]];
	const lab = a.map((v, c) => v + ((b[c] as number) - v) * (place - k));
	return srgbOfOklab(lab as unknown as [number, number, number]).map((v) =>
		Math.round(255 * Math.min(1, Math.max(0, v))),
	) as unknown as [number, number, number];
}

/** The cells' texels in a rectangle of a sheet so large: RGBA8; spare places are clear. */
export function cellsBlock(grid: Cells, rect: Rect, width: number, height: number): Uint8Array {
	const out = new Uint8Array(rect.width * rect.height * 4);
	const known = new Map(grid.cells.map((cell) => [cell.row * MOST_CELLS + cell.col, cell]));
	for (let i = 0; i < rect.width * rect.height; i++) {
		const [x, y] = [rect.x + (i % rect.width) + 0.5, rect.y + Math.floor(i / rect.width) + 0.5];
		if (x < 0 || y < 0 || x > width || y > height) continue;
		const [u, v] = [(x / width) * grid.cols, (y / height) * grid.rows];
		const cell = known.get(Math.floor(v) * MOST_CELLS + Math.floor(u));
		if (!cell) continue;
		out.set(cellColor(cell, cell.along === 'down' ? v % 1 : u % 1), i * 4);
		out[i * 4 + 3] = 255;
	}
	return out;
}

/** A grid to begin with: each ramp in a row of its own, one cell a colour. */
export function cellsOfRamps(
	ramps: readonly { readonly name: string; readonly colors: readonly Hex[] }[],
	cols: number,
	rows: number,
): Cells {
	const cells = ramps.slice(0, rows).flatMap(({ name, colors }, row) =>
		colors.slice(0, cols).map(
			(color, col): Cell => ({
				col,
				row,
				name: `${name} ${col + 1}`,
				colors: [color],
				of: 'flat',
				along: 'down',
			}),
		),
	);
	return { fill: 'cells', cols, rows, cells };
}
