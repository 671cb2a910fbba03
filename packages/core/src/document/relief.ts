import type { Relief } from '../light/index.ts';
import { belowOf } from './below.ts';
import { kindOf } from './layer/index.ts';
import { eachLayer, layersIn } from './layerTree.ts';
import type { Id, Layer, Sheet } from './types.ts';

/** A layer that stands out, with what else shapes it. */
export interface Raised {
	readonly layer: Layer;
	readonly relief: Relief;
	/** The layer that it is clipped to, and so on for the groups around it. */
	readonly bases: readonly Layer[];
	/** The groups around it. */
	readonly groups: readonly Layer[];
}

/** Those of some layers, lowest first, that stand out: only what is shown does. */
function raisedIn(
	layers: readonly Layer[],
	around: { readonly bases: readonly Layer[]; readonly groups: readonly Layer[] } = { bases: [], groups: [] },
): Raised[] {
	let base: Layer | null = null;
	return layers.flatMap((layer) => {
		const clipped = layer.clip && base !== null;
		if (!clipped) base = layer;
		if (!layer.shown || (clipped && !base?.shown)) return [];
		const bases = clipped && base ? [...around.bases, base] : around.bases;
		const own = layer.relief ? [{ layer, relief: layer.relief, ...around, bases }] : [];
		return [...raisedIn(layersIn(layer), { bases, groups: [...around.groups, layer] }), ...own];
	});
}

/** The layers that stand out under a layer. */
export const raisedUnder = (sheet: Sheet, id: Id): Raised[] => raisedIn(belowOf(sheet, id));

/** All layers of a sheet that stand out. */
export const raisedOn = (sheet: Sheet): Raised[] => raisedIn(sheet.layers);

/** The highest that layers can stand out, and sink, together: hundredths of the model's size. */
export const spanOf = (raised: readonly Raised[]): number =>
	raised.reduce((sum, { relief }) => sum + Math.abs(relief.height), 0);

/** The nearest light over a layer that shows it standing out, or null where none does. */
export function lightOver(sheet: Sheet, id: Id): Layer | null {
	const shows = (light: Layer): boolean =>
		light.shown &&
		Boolean(kindOf(light).content?.(light)?.relief) &&
		raisedUnder(sheet, light.id).some(({ layer }) => layer.id === id);
	return [...eachLayer(sheet.layers)].find(shows) ?? null;
}
