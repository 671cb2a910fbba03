import type { Kernels, Ptr } from '@eppu/kernels';
import type { Compositor } from '../composite/index.ts';
import { ownMaskIdOf, stackOf } from '../derive/index.ts';
import { type Id, layerOf, type Sheet } from '../document/index.ts';
import { greyTile } from '../edit/index.ts';
import type { Surface, SurfaceId } from '../surface/index.ts';

/** A part of a sheet to look at: a layer or its mask alone, or the lowest `upTo` layers, groups as one. */
export type Look = { readonly layer: Id; readonly on: 'layer' | 'mask' } | { readonly upTo: number };

export type Seen = Look & { readonly sheet: Id };

/** Writes a tile of what is looked at, RGBA8, to `out`; false where it is not there and the whole must be shown. */
export function seenTile(
	kernels: Kernels,
	compositor: Compositor,
	surfaces: ReadonlyMap<SurfaceId, Surface>,
	sheet: Sheet,
	seen: Seen,
	tile: number,
	out: Ptr,
): boolean {
	const show = (part: Sheet): true => {
		compositor.tile(stackOf(part, surfaces).layers, tile, out);
		return true;
	};
	if ('upTo' in seen) return show({ ...sheet, layers: sheet.layers.slice(0, seen.upTo) });
	const layer = layerOf(sheet, seen.layer);
	if (!layer) return false;
	if (seen.on === 'layer')
		return show({ ...sheet, base: null, layers: [{ ...layer, shown: true, clip: false, mode: 'normal' }] });
	const mask = surfaces.get(ownMaskIdOf(layer));
	if (mask) greyTile(kernels, mask, tile, out);
	return mask !== undefined;
}
