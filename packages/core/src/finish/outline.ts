import { type Hex, rgbOfHex } from '../color/index.ts';
import { type Block, type Rect, signedDistances } from '../raster/index.ts';

export interface Outline {
	readonly side: 'out' | 'in' | 'middle';
	readonly width: number;
	readonly color: Hex;
	/** Whole texels instead of a smooth edge. */
	readonly hard: boolean;
}

/** Texels beside a region that its outline reads. */
export const outlineReach = ({ width }: Outline): number => Math.ceil(width) + 2;

/** An outline's texels in a rectangle: RGBA8, or null where the border is too far away to be seen. `shape` is A8 of that rectangle grown by `outlineReach`. */
export function outlineBlock(outline: Outline, shape: Block, rect: Rect): Uint8Array | null {
	const { rect: wide, data } = shape;
	const inside = (data[0] as number) >= 128;
	// Far from the border: outside nothing is seen, and inside only what lies below the layer anyway.
	if (data.every((v) => v === data[0]) && (data[0] === 0 || data[0] === 255))
		return inside && outline.side === 'out' ? uniform(outline, rect) : null;
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
			const within = Math.min(d - from, to - d);
			const cover = outline.hard ? (within >= 0 ? 1 : 0) : Math.min(1, Math.max(0, within + 0.5));
			if (cover === 0) continue;
			const at = (y * rect.width + x) * 4;
			out[at] = r;
			out[at + 1] = g;
			out[at + 2] = b;
			out[at + 3] = Math.round(255 * cover);
		}
	return out;
}

function uniform({ color }: Outline, { width, height }: Rect): Uint8Array {
	const [r, g, b] = rgbOfHex(color);
	return new Uint8Array(new Uint32Array(width * height).fill((r | (g << 8) | (b << 16) | (255 << 24)) >>> 0).buffer);
}
