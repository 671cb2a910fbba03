import { rgbOfHex } from '../color/index.ts';
import type { StackLayer } from '../composite/index.ts';
import { type AnyLayer, allTiles, type Id, kindOf, type Layer, placeOfLayer, type Sheet } from '../document/index.ts';
import { type Finish, finishKindOf } from '../finish/index.ts';
import { Kind, type Surface, type SurfaceId } from '../surface/index.ts';
import { fillIdOf, finishIdOf, isComputed, maskIdOf } from './derivedId.ts';

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
	const layers = base.concat(
		stackLayers(sheet.layers, surfaces, (layer, count) => {
			if (layer.id === outermost) at = base.length + count;
		}),
	);
	return { layers, active: at < 0 ? layers.length : at };
}

function stackLayers(
	layers: readonly AnyLayer[],
	surfaces: ReadonlyMap<SurfaceId, Surface>,
	found?: (layer: AnyLayer, count: number) => void,
): StackLayer[] {
	const out: StackLayer[] = [];
	let baseShown = true;
	layers.forEach((layer, index) => {
		const clip = layer.clip && index > 0;
		if (!clip) baseShown = layer.shown;
		if (!layer.shown || (clip && !baseShown)) return;
		found?.(layer, out.length);
		const { mode, opacity } = layer;
		const finishes = (layer.finishes ?? []).filter((finish) => finish.on);
		const mask = surfaces.get(maskIdOf(layer)) ?? null;
		if (finishes.length === 0) {
			out.push({ mode, opacity, clip, source: sourceOf(layer, surfaces), mask });
			return;
		}
		// Finishes and the layer that they follow are blended as one.
		out.push({
			mode,
			opacity,
			clip,
			source: { group: finished(layer, finishes, mask, surfaces), isolated: true },
			mask: null,
		});
	});
	return out;
}

const plainOf = (finish: Finish): number | null => {
	const color = finishKindOf(finish).plain?.(finish);
	return color === undefined ? null : packed(color);
};

function finished(
	layer: AnyLayer,
	finishes: readonly Finish[],
	mask: Surface | null,
	surfaces: ReadonlyMap<SurfaceId, Surface>,
): StackLayer[] {
	const lay = (finish: Finish, clip: boolean): StackLayer => ({
		mode: finish.mode,
		opacity: finish.opacity,
		clip,
		source: plainOf(finish) ?? surfaces.get(finishIdOf(layer, finish)) ?? 0,
		mask: null,
	});
	const at = (place: 'below' | 'within' | 'over'): Finish[] =>
		finishes.filter((each) => finishKindOf(each).place(each) === place);
	const own: StackLayer = { mode: 'normal', opacity: 1, clip: false, source: sourceOf(layer, surfaces), mask };
	return [
		...at('below').map((finish) => lay(finish, false)),
		own,
		...at('within').map((finish) => lay(finish, true)),
		...at('over').map((finish) => lay(finish, false)),
	];
}

const sourceOf = (layer: AnyLayer, surfaces: ReadonlyMap<SurfaceId, Surface>): StackLayer['source'] =>
	kindOf(layer).source(layer, {
		surface: (id) => surfaces.get(id),
		content: () => surfaces.get(fillIdOf(layer)),
		stack: (layers) => stackLayers(layers, surfaces),
	});

/** The index of the base of the clip run in which the active layer stands: all below it can be kept. */
export function splitOf({ layers, active }: SheetStack): number {
	let at = active;
	while (at > 0 && layers[at]?.clip) at--;
	return at;
}

/** Tiles in which a layer may show. */
export function tilesOfLayer(sheet: Sheet, layer: Layer, surfaces: ReadonlyMap<SurfaceId, Surface>): number[] {
	const mask = surfaces.get(maskIdOf(layer));
	const inMask = (tile: number): boolean => !(mask && mask.kinds[tile] === Kind.empty);
	const found = new Set<number>();
	if ('layers' in layer) {
		for (const each of layer.layers)
			for (const tile of tilesOfLayer(sheet, each, surfaces)) if (inMask(tile)) found.add(tile);
	} else {
		const color =
			'surface' in layer ? surfaces.get(layer.surface) : isComputed(layer) ? surfaces.get(fillIdOf(layer)) : null;
		for (const tile of allTiles(sheet))
			if (!(color && color.kinds[tile] === Kind.empty) && inMask(tile)) found.add(tile);
	}
	for (const finish of layer.finishes ?? []) {
		const surface = surfaces.get(finishIdOf(layer, finish));
		surface?.kinds.forEach((kind, tile) => {
			if (kind !== Kind.empty) found.add(tile);
		});
	}
	return [...found].sort((a, b) => a - b);
}
