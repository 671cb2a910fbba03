import { rgbOfHex } from '../color/index.ts';
import { type Block, type Rect, signedDistances } from '../raster/index.ts';
import type { Outline } from './finish.ts';

/** Texels beside a region that its outline reads. */
export const outlineReach = ({ width }: Outline): number => Math.ceil(width) + 2;

/** An outline's texels in a rectangle: RGBA8. `shape` is A8 of that rectangle grown by `outlineReach`. */
export function outlineBlock(outline: Outline, shape: Block, rect: Rect): Uint8Array {
	const { rect: wide, data } = shape;
	const distance = signedDistances(data, wide.width, wide.height);
	const out = new Uint8Array(rect.width * rect.height * 4);
	const [r, g, b] = rgbOfHex(outline.color);
	const [from, to] =
		outline.side === 'out'
			? [-Infinity, outline.width]
			: outline.side === 'in'
				? [-outline.width, Infinity]
				: [-outline.width / 2, outline.width / 2];
	for (let y = 0; y < rect.height; y++)
		for (let x = 0; x < rect.width; x++) {
			const d = distance[(rect.y - wide.y + y) * wide.width + rect.x - wide.x + x] as number;
			// Nothing at all is no shape to go round.
			if (!Number.isFinite(d)) continue;
			const inside = Math.min(d - from, to - d);
			const cover = outline.hard ? (inside >= 0 ? 1 : 0) : Math.min(1, Math.max(0, inside + 0.5));
			if (cover === 0) continue;
			const at = (y * rect.width + x) * 4;
			out[at] = r;
			out[at + 1] = g;
			out[at + 2] = b;
			out[at + 3] = Math.round(255 * cover);
		}
	return out;
}
