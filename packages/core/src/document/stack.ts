import { rgbOfHex } from '../color/index.ts';
import type { StackLayer } from '../composite/index.ts';
import { Kind, type Surface, type SurfaceId, TILE } from '../surface/index.ts';
import { type Id, type Layer, placeOfLayer, type Sheet } from './project.ts';

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

/**
 * The stack of a sheet; a hidden base takes what is clipped to it along. `active` tells where the layer asked for, or
 * the outermost group around it, stands.
 */
export function stackOf(sheet: Sheet, surfaces: ReadonlyMap<SurfaceId, Surface>, active?: Id): SheetStack {
	const base: StackLayer[] = sheet.base
		? [{ mode: 'normal', opacity: 1, clip: false, source: packed(sheet.base), mask: null }]
		: [];
	let at = -1;
	const outermost = active === undefined ? undefined : (placeOfLayer(sheet, active)?.path[0]?.id ?? active);
	const listOf = (layers: readonly Layer[], found?: (layer: Layer, count: number) => void): StackLayer[] => {
		const out: StackLayer[] = [];
		let baseShown = true;
		layers.forEach((layer, index) => {
			const clip = layer.clip && index > 0;
			if (!clip) baseShown = layer.shown;
			if (!layer.shown || (clip && !baseShown)) return;
			found?.(layer, out.length);
			out.push({
				mode: layer.mode,
				opacity: layer.opacity,
				clip,
				source: sourceOf(layer, surfaces, listOf),
				mask: layer.mask?.on ? (surfaces.get(layer.mask.surface) ?? null) : null,
			});
		});
		return out;
	};
	const layers = base.concat(
		listOf(sheet.layers, (layer, count) => {
			if (layer.id === outermost) at = base.length + count;
		}),
	);
	return { layers, active: at < 0 ? layers.length : at };
}

function sourceOf(
	layer: Layer,
	surfaces: ReadonlyMap<SurfaceId, Surface>,
	listOf: (layers: readonly Layer[]) => StackLayer[],
): StackLayer['source'] {
	switch (layer.kind) {
		case 'wash':
			return packed(layer.color);
		case 'paint':
			return surfaces.get(layer.surface) ?? 0;
		case 'adjust':
			return { adjust: layer.tone };
		case 'group':
			// A mode of its own needs something to be blended: the group as one.
			return { group: listOf(layer.layers), isolated: layer.isolated || layer.mode !== 'normal' };
	}
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
	const mask = layer.mask?.on ? surfaces.get(layer.mask.surface) : null;
	const inMask = (tile: number): boolean => !(mask && mask.kinds[tile] === Kind.empty);
	if (layer.kind === 'group') {
		const within = new Set(layer.layers.flatMap((each) => tilesOfLayer(sheet, each, surfaces)));
		return [...within].filter(inMask).sort((a, b) => a - b);
	}
	const color = layer.kind === 'paint' ? surfaces.get(layer.surface) : null;
	const found: number[] = [];
	for (let tile = 0; tile < count; tile++)
		if (!(color && color.kinds[tile] === Kind.empty) && inMask(tile)) found.push(tile);
	return found;
}
