import { rgbOfHex } from '../color/index.ts';
import type { StackLayer } from '../composite/index.ts';
import { Kind, type Surface, type SurfaceId, TILE } from '../surface/index.ts';
import type { Id, Layer, Sheet } from './project.ts';

/** A sheet's layers as the compositor takes them: what is hidden is left out. */
export interface SheetStack {
	readonly layers: readonly StackLayer[];
	/** Where the layer asked for stands among them, or its length where it is hidden. */
	readonly active: number;
}

const packed = (hex: string): number => {
	const [r, g, b] = rgbOfHex(hex);
	return (r | (g << 8) | (b << 16) | (255 << 24)) >>> 0;
};

/** The stack of a sheet; a hidden base takes what is clipped to it along. */
export function stackOf(sheet: Sheet, surfaces: ReadonlyMap<SurfaceId, Surface>, active?: Id): SheetStack {
	const layers: StackLayer[] = [];
	let at = -1;
	if (sheet.base) layers.push({ mode: 'normal', opacity: 1, clip: false, source: packed(sheet.base), mask: null });
	let baseShown = true;
	sheet.layers.forEach((layer, index) => {
		const clip = layer.clip && index > 0;
		if (!clip) baseShown = layer.shown;
		if (!layer.shown || (clip && !baseShown)) return;
		if (layer.id === active) at = layers.length;
		layers.push({
			mode: layer.mode,
			opacity: layer.opacity,
			clip,
			source: layer.kind === 'wash' ? packed(layer.color) : (surfaces.get(layer.surface) ?? 0),
			mask: layer.mask?.on ? (surfaces.get(layer.mask.surface) ?? null) : null,
		});
	});
	return { layers, active: at < 0 ? layers.length : at };
}

/** The index of the base of the clip run in which the active layer stands: all below it can be kept. */
export function splitOf({ layers, active }: SheetStack): number {
	let at = active;
	while (at > 0 && layers[at]?.clip) at--;
	return at;
}

/** Tiles in which a layer may show. */
export function tilesOfLayer(sheet: Sheet, layer: Layer, surfaces: ReadonlyMap<SurfaceId, Surface>): number[] {
	const count = Math.ceil(sheet.width / TILE) * Math.ceil(sheet.height / TILE);
	const color = layer.kind === 'paint' ? surfaces.get(layer.surface) : null;
	const mask = layer.mask?.on ? surfaces.get(layer.mask.surface) : null;
	const found: number[] = [];
	for (let tile = 0; tile < count; tile++)
		if (!(color && color.kinds[tile] === Kind.empty) && !(mask && mask.kinds[tile] === Kind.empty)) found.push(tile);
	return found;
}
