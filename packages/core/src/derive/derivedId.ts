import { type AnyLayer, kindOf } from '../document/index.ts';
import type { AnyFinish } from '../finish/index.ts';
import type { SurfaceId } from '../surface/index.ts';

/** Names of the surfaces that are computed (see derived.ts); an id of the document never holds a tilde. */
export const fillIdOf = (layer: AnyLayer): SurfaceId => `${layer.id}~fill`;

/** The surface of a bake on a sheet of its model. */
export const bakeIdOf = (bake: string, sheet: { readonly id: string }): SurfaceId => `${bake}~${sheet.id}`;

/** Where a bake of a finer mesh met nothing, as a mask. */
export const missedIdOf = (bake: string, sheet: { readonly id: string }): SurfaceId => `${bake}~missed~${sheet.id}`;

export const finishIdOf = (layer: AnyLayer, finish: AnyFinish): SurfaceId => `${layer.id}~${finish.id}`;

/** The slopes of what stands out under a light layer. */
export const reliefIdOf = (layer: AnyLayer): SurfaceId => `${layer.id}~relief`;

/** The surface of a layer's mask, on or off: computed where it has a recipe, else as it is painted; '' where there is none. */
export const ownMaskIdOf = ({ id, mask }: AnyLayer): SurfaceId =>
	!mask ? '' : mask.recipe?.length ? `${id}~mask` : mask.surface;

/** The surface of a layer's mask as it counts: '' where none is on. */
export const maskIdOf = (layer: AnyLayer): SurfaceId => (layer.mask?.on ? ownMaskIdOf(layer) : '');

/** Whether a layer's own texels are computed. */
export const isComputed = (layer: AnyLayer): boolean => Boolean(kindOf(layer).content?.(layer));
