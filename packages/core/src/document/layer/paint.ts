import { id, one } from '../../shape/index.ts';
import type { SurfaceId } from '../../surface/index.ts';
import { type Id, type LayerBase, layerShape, usualLayer } from '../layerBase.ts';
import type { LayerKind } from './kind.ts';

export interface PaintLayer extends LayerBase {
	readonly kind: 'paint';
	readonly surface: SurfaceId;
}

/** A new paint layer; its surface bears the layer's id. */
export const paintLayer = (id: Id, name: string, change: Partial<LayerBase> = {}): PaintLayer => ({
	...usualLayer,
	...change,
	id,
	name,
	kind: 'paint',
	surface: id,
});

export const paint: LayerKind<PaintLayer> = {
	kind: 'paint',
	words: 'Paint',
	shape: layerShape({ kind: one('paint'), surface: id }),
	own: {},
	finishes: true,
	source: (layer, at) => at.surface(layer.surface) ?? 0,
	noPaint: () => null,
};
