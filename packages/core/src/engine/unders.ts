import type { Kernels } from '@eppu/kernels';
import { dropUnder, type UnderCache } from '../composite/index.ts';
import { splitOf, stackOf } from '../derive/index.ts';
import type { Id, Sheet } from '../document/index.ts';
import type { Surface, SurfaceId } from '../surface/index.ts';

/** 32 KiB each: 24 MB at the most. */
const MOST_TILES = 768;

/** What lies under the layer of each sheet that is painted on, composited once a tile while the stroke runs. */
export interface Unders {
	of(sheet: Sheet, layer: Id): UnderCache;
	drop(): void;
}

export function createUnders(kernels: Kernels, surfaces: ReadonlyMap<SurfaceId, Surface>): Unders {
	const kept = new Map<Id, { readonly layer: Id; readonly cache: UnderCache }>();
	return {
		of(sheet, layer) {
			const known = kept.get(sheet.id);
			if (known?.layer === layer) return known.cache;
			if (known) dropUnder(kernels, known.cache);
			const cache = { split: splitOf(stackOf(sheet, surfaces, layer)), tiles: new Map(), limit: MOST_TILES };
			kept.set(sheet.id, { layer, cache });
			return cache;
		},
		drop() {
			for (const { cache } of kept.values()) dropUnder(kernels, cache);
			kept.clear();
		},
	};
}
