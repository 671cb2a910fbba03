import type { Relief } from '../light/index.ts';
import { belowOf } from './below.ts';
import { layersIn } from './layerTree.ts';
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

/** The layers that stand out under a layer, lowest first: only what is shown does. */
export function raisedUnder(sheet: Sheet, id: Id): Raised[] {
	const raisedIn = (
		layers: readonly Layer[],
		around: { readonly bases: readonly Layer[]; readonly groups: readonly Layer[] },
	): Raised[] => {
		let base: Layer | null = null;
		return layers.flatMap((layer) => {
			const clipped = layer.clip && base !== null;
			if (!clipped) base = layer;
			if (!layer.shown || (clipped && !base?.shown)) return [];
			const bases = clipped && base ? [...around.bases, base] : around.bases;
			const own = layer.relief ? [{ layer, relief: layer.relief, ...around, bases }] : [];
			return [...raisedIn(layersIn(layer), { bases, groups: [...around.groups, layer] }), ...own];
		});
	};
	return raisedIn(belowOf(sheet, id), { bases: [], groups: [] });
}
