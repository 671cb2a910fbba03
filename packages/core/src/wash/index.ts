import type { Rect } from '../raster/index.ts';
import type { PaintPicture } from '../stroke/index.ts';
import { type Gradient, gradientBlock } from './gradient.ts';
import { type Spaced, spacedBlock, type Tiled, tiledBlock } from './pattern.ts';

export { type Gradient, gradientBlock } from './gradient.ts';
export { gridOf, type Spaced, type Tiled } from './pattern.ts';

/** What a wash lays beside one plain colour. */
export type WashFill = Gradient | Tiled | Spaced;

/** A fill's texels in a rectangle: RGBA8; null where its picture is not here. */
export function fillBlock(
	fill: WashFill,
	rect: Rect,
	picture: (id: string) => PaintPicture | undefined,
): Uint8Array | null {
	if (fill.fill === 'gradient') return gradientBlock(fill, rect);
	const found = picture(fill.picture);
	if (!found) return null;
	return fill.fill === 'picture' ? tiledBlock(fill, found, rect) : spacedBlock(fill, found, rect);
}
