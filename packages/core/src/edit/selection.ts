import type { Kernels } from '@eppu/kernels';
import type { Id, Sheet } from '../document/index.ts';
import { pathCoverage, readBlock } from '../raster/index.ts';
import { pieceTone, type Scene } from '../scene/index.ts';
import { type Repeat, repeatedPath, type Shape, shapePath, similarTo, texelCover, toneRange } from '../select/index.ts';
import {
	hasTexels,
	Kind,
	type Picture,
	type Surface,
	type SurfaceId,
	TILE_TEXELS,
	tileState,
} from '../surface/index.ts';

/** A shape, set down once or several times. */
export interface DrawnShape {
	readonly shape: Shape;
	readonly repeat?: Repeat | null;
}

/** What of a layer is selected: all that it holds, its mask, or the border of what it holds and all within. */
export type LayerTone = 'shape' | 'mask' | 'outline' | 'inside';

/** What a selection is made by. `layer` null looks at all layers together. */
export type SelectBy =
	| ({ readonly by: 'shape' } & DrawnShape)
	| {
			readonly by: 'similar';
			readonly x: number;
			readonly y: number;
			/** 0..255 */
			readonly reach: number;
			/** Only what joins the place edge by edge. */
			readonly together: boolean;
			readonly layer: Id | null;
	  }
	| {
			readonly by: 'tones';
			readonly low: number;
			readonly high: number;
			readonly soft: number;
			readonly layer: Id | null;
	  }
	| { readonly by: 'piece'; readonly of: 'island' | 'part' | 'face'; readonly x: number; readonly y: number }
	| { readonly by: 'layer'; readonly layer: Id; readonly of: LayerTone };

/** The id of a sheet's selection surface. */
export const selectionIdOf = (sheet: Sheet): SurfaceId => `${sheet.id.slice(0, 60)}-sel`;

/** What a selection lets through in a tile: null where it lets all, A8 else. */
export function selectedTile({ heap }: Kernels, selection: Surface | undefined, tile: number): Uint8Array | null {
	if (!selection) return null;
	const { kind, data } = tileState(selection, tile);
	if (hasTexels(kind)) return heap.u8.slice(data, data + TILE_TEXELS);
	if (kind === Kind.uniform && data === 255) return null;
	return new Uint8Array(TILE_TEXELS).fill(data);
}

/** What is asked for, as A8 of the whole sheet; null where it cannot be told (there is no model under the place). */
export function selectedTone(
	by: SelectBy,
	sheet: Sheet,
	scene: Scene | undefined,
	pictureOf: (layer: Id | null) => Picture,
	toneOf: (layer: Id, of: LayerTone) => Uint8Array | null,
): Uint8Array | null {
	const rect = { x: 0, y: 0, width: sheet.width, height: sheet.height };
	switch (by.by) {
		case 'shape':
			if (sheet.pixel) return texelCover(by.shape, null, by.repeat ?? null, rect);
			return pathCoverage(repeatedPath(shapePath(by.shape), by.repeat ?? null), rect);
		case 'similar':
			return similarTo(pictureOf(by.layer), by.x, by.y, by.reach, by.together);
		case 'tones':
			return toneRange(pictureOf(by.layer), by.low, by.high, by.soft);
		case 'piece':
			return scene ? pieceTone(scene, sheet, by.of, by.x, by.y) : null;
		case 'layer':
			return toneOf(by.layer, by.of);
	}
}

/** A selection as A8 of the whole sheet; all of it where there is none. */
export function wholeSelection(kernels: Kernels, sheet: Sheet, selection: Surface | undefined): Uint8Array {
	const rect = { x: 0, y: 0, width: sheet.width, height: sheet.height };
	return selection ? readBlock(kernels, selection, rect).data : new Uint8Array(sheet.width * sheet.height).fill(255);
}
