import type { Kernels } from '@eppu/kernels';
import { luma } from '../color/index.ts';
import type { Compositor } from '../composite/index.ts';
import { type Layer, type Sheet, sheetRect } from '../document/index.ts';
import { type Block, meet, type Rect, tileRect, tilesOfRect } from '../raster/index.ts';
import { TILE, tileBytes } from '../surface/index.ts';
import { stackOf } from './layerStack.ts';
import type { Means } from './means.ts';

/** Layers composited by themselves in a rectangle: RGBA8; what lies beside the sheet is empty. */
export function layersBlock(
	{ kernels, compositor, surfaces }: Means,
	sheet: Sheet,
	layers: readonly Layer[],
	rect: Rect,
): Block {
	const stack = stackOf({ ...sheet, base: null, layers }, surfaces).layers;
	return stackBlock(kernels, compositor, sheet, stack, rect);
}

/** A stack's picture in a rectangle: RGBA8. */
export function stackBlock(
	{ heap }: Kernels,
	compositor: Compositor,
	sheet: Sheet,
	stack: Parameters<Compositor['tile']>[0],
	rect: Rect,
): Block {
	const size = { cols: Math.ceil(sheet.width / TILE), rows: Math.ceil(sheet.height / TILE) };
	const data = new Uint8Array(rect.width * rect.height * 4);
	const out = heap.alloc(tileBytes('color'));
	for (const tile of tilesOfRect(size, rect)) {
		compositor.tile(stack, tile, out);
		const whole = tileRect(size, tile);
		const part = meet(meet(whole, rect), sheetRect(sheet));
		for (let row = 0; row < part.height; row++) {
			const from = out + ((part.y - whole.y + row) * TILE + part.x - whole.x) * 4;
			data.set(
				heap.u8.subarray(from, from + part.width * 4),
				((part.y - rect.y + row) * rect.width + part.x - rect.x) * 4,
			);
		}
	}
	heap.free(out, tileBytes('color'));
	return { rect, bytes: 4, data };
}

/** A layer by itself: shown, plain, in its own shape. */
export const alone = (layer: Layer): Layer => ({ ...layer, shown: true, clip: false, mode: 'normal', opacity: 1 });

/** The same without its finishes: what those follow. */
export const bare = (layer: Layer): Layer => ({ ...alone(layer), finishes: [] });

export function alphaOf({ data }: Block): Uint8Array {
	const out = new Uint8Array(data.length / 4);
	for (let i = 0; i < out.length; i++) out[i] = data[i * 4 + 3] as number;
	return out;
}

export function toneOf({ data }: Block): Uint8Array {
	const out = new Uint8Array(data.length / 4);
	for (let i = 0, at = 0; i < out.length; i++, at += 4) {
		const tone = luma(data[at] as number, data[at + 1] as number, data[at + 2] as number);
		out[i] = Math.round((tone * (data[at + 3] as number)) / 255);
	}
	return out;
}
