import { type AnyLayer, kindOf, type Raised } from '../document/index.ts';
import type { AnyFinish } from '../finish/index.ts';
import type { SurfaceId } from '../surface/index.ts';

/** Names of the surfaces that are computed (see derived.ts); an id of the document never holds a tilde. */
export const fillIdOf = (layer: AnyLayer): SurfaceId => `${layer.id}~fill`;

/** The surface of a bake on a sheet of its model. */
export const bakeIdOf = (bake: string, sheet: { readonly id: string }): SurfaceId => `${bake}~${sheet.id}`;

/** Where a bake of a finer mesh met nothing, as a mask. */
export const missedIdOf = (bake: string, sheet: { readonly id: string }): SurfaceId => `${bake}~missed~${sheet.id}`;

export const finishIdOf = (layer: AnyLayer, finish: AnyFinish): SurfaceId => `${layer.id}~${finish.id}`;

/**
 * Layers that stand out, by a name. Those under any layer are all from one of the sheet's to another, so that lights over
 * the same ones share what is computed of them; within a group that is blended as one they are not held to what is around.
 */
const nameOfRaised = (raised: readonly Raised[]): string =>
	`${raised[0]?.layer.id}~${raised.at(-1)?.layer.id}~${raised[0]?.groups.length}`;

/** How high layers stand out, and the slopes of that. */
export const heightsIdOf = (raised: readonly Raised[]): SurfaceId => `${nameOfRaised(raised)}~heights`;
export const slopesIdOf = (raised: readonly Raised[]): SurfaceId => `${nameOfRaised(raised)}~slopes`;

/** The surface of a layer's mask, on or off: computed where it has a recipe, else as it is painted; '' where there is none. */
export const ownMaskIdOf = ({ id, mask }: AnyLayer): SurfaceId =>
	!mask ? '' : mask.recipe?.length ? `${id}~mask` : mask.surface;

/** The surface of a layer's mask as it counts: '' where none is on. */
export const maskIdOf = (layer: AnyLayer): SurfaceId => (layer.mask?.on ? ownMaskIdOf(layer) : '');

/** Whether a layer's own texels are computed. */
export const isComputed = (layer: AnyLayer): boolean => Boolean(kindOf(layer).content?.(layer));
