import type { Rect } from '../raster/index.ts';
import { byTag, type Shape } from '../shape/index.ts';
import type { PaintPicture } from '../stroke/index.ts';
import { type Cells, cellsBlock, cellsShape } from './cells.ts';
import { type Gradient, gradientBlock, gradientShape } from './gradient.ts';
import { type Spaced, spacedBlock, spacedShape, type Tiled, tiledBlock, tiledShape } from './pattern.ts';

export { type Cell, type Cells, cellAt, cellColor, cellsBlock, cellsOfRamps, MOST_CELLS } from './cells.ts';
export { type Gradient, gradientBlock } from './gradient.ts';
export { gridOf, type Spaced, spacedMoved, type Tiled } from './pattern.ts';

/** What a wash lays beside one plain colour. */
export type WashFill = Gradient | Tiled | Spaced | Cells;

export const fillShape: Shape = byTag('fill', [gradientShape, tiledShape, spacedShape, cellsShape]);
/** Fills that are a picture laid again and again. */
export const patternShape: Shape = byTag('fill', [tiledShape, spacedShape]);

/** Pictures that a fill is made with. */
export const fillPictures = (fill: WashFill): readonly string[] => ('picture' in fill ? [fill.picture] : []);

/** A fill's texels in a rectangle of a sheet: RGBA8; null where its picture is not here. */
export function fillBlock(
	fill: WashFill,
	rect: Rect,
	picture: (id: string) => PaintPicture | undefined,
	sheet: { readonly width: number; readonly height: number },
): Uint8Array | null {
	if (fill.fill === 'cells') return cellsBlock(fill, rect, sheet.width, sheet.height);
	if (fill.fill === 'gradient') return gradientBlock(fill, rect);
	return patternBlock(fill, rect, picture);
}

/** The texels of a picture that is laid again and again, in a rectangle: RGBA8; null where it is not here. */
export function patternBlock(
	fill: Tiled | Spaced,
	rect: Rect,
	picture: (id: string) => PaintPicture | undefined,
): Uint8Array | null {
	const found = picture(fill.picture);
	if (!found) return null;
	return fill.fill === 'picture' ? tiledBlock(fill, found, rect) : spacedBlock(fill, found, rect);
}
