import type { LayerBase } from './layerBase.ts';
import type { Sheet } from './types.ts';

/** A bleed that suits a sheet: 1/128 of its larger side, 4 at the least. */
export const usualBleed = (width: number, height: number): number =>
	Math.min(32, Math.max(4, Math.round(Math.max(width, height) / 128)));

/** Whether a layer of a sheet holds whole texels of the palette's colours alone. */
export const isStrict = (sheet: Pick<Sheet, 'pixel'>, layer: Pick<LayerBase, 'loose'>): boolean =>
	Boolean(sheet.pixel && !layer.loose);
