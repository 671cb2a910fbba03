import type { Kernels, Ptr } from '@eppu/kernels';
import type { Compositor } from '../composite/index.ts';
import { bakeIdOf, missedIdOf, ownMaskIdOf, stackOf } from '../derive/index.ts';
import { type Id, type Layer, layerOf, type Sheet } from '../document/index.ts';
import { greyTile } from '../edit/index.ts';
import { hasTexels, type Surface, type SurfaceId, TILE, TILE_TEXELS, tileState } from '../surface/index.ts';

/**
 * What is looked at: a layer or its mask alone; the lowest `upTo` layers, groups as one; a bake, on all sheets that have
 * it; or all, with a layer only by a share of how it is, 0 as if it were not there.
 */
export type Look =
	| { readonly layer: Id; readonly on: 'layer' | 'mask' }
	| { readonly upTo: number }
	| { readonly bake: string }
	| { readonly fading: Id; readonly share: number };

export type Seen = Look & { readonly sheet: Id };

/** Whether something that is looked at is on a sheet. */
export const seenOn = (seen: Seen | null, sheet: Id): boolean =>
	seen !== null && (seen.sheet === sheet || 'bake' in seen);

/** A sheet with one of its layers, in whatever group, changed. */
const withLayer = (layers: readonly Layer[], id: Id, change: (layer: Layer) => Layer): readonly Layer[] =>
	layers.map((layer) =>
		layer.id === id
			? change(layer)
			: 'layers' in layer
				? { ...layer, layers: withLayer(layer.layers, id, change) }
				: layer,
	);

/** Stripes that no bake looks like, ABGR. */
const [STRIPE, BETWEEN] = [0xff2b3ac0, 0xff1e2326];

/** Marks the texels of a tile where a mask is not 0, in place. */
function stripeTile({ heap }: Kernels, mask: Surface, tile: number, out: Ptr): void {
	const { kind, data } = tileState(mask, tile);
	const words = heap.u32;
	for (let i = 0; i < TILE_TEXELS; i++) {
		if (!(hasTexels(kind) ? heap.u8[data + i] : data)) continue;
		words[(out >> 2) + i] = ((i % TILE) + Math.floor(i / TILE)) % 8 < 4 ? STRIPE : BETWEEN;
	}
}

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
	if ('bake' in seen) {
		const bake = surfaces.get(bakeIdOf(seen.bake, sheet));
		if (!bake) return false;
		if (bake.format === 'color')
			compositor.tile([{ mode: 'normal', opacity: 1, clip: false, source: bake, mask: null }], tile, out);
		else greyTile(kernels, bake, tile, out);
		const missed = surfaces.get(missedIdOf(seen.bake, sheet));
		if (missed) stripeTile(kernels, missed, tile, out);
		return true;
	}
	if ('fading' in seen)
		return show({
			...sheet,
			layers: withLayer(sheet.layers, seen.fading, (layer) => ({ ...layer, opacity: layer.opacity * seen.share })),
		});
	const layer = layerOf(sheet, seen.layer);
	if (!layer) return false;
	if (seen.on === 'layer')
		return show({ ...sheet, base: null, layers: [{ ...layer, shown: true, clip: false, mode: 'normal' }] });
	const mask = surfaces.get(ownMaskIdOf(layer));
	if (mask) greyTile(kernels, mask, tile, out);
	return mask !== undefined;
}
