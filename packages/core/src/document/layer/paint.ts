import { id, one, orNull } from '../../shape/index.ts';
import type { SurfaceId } from '../../surface/index.ts';
import { type Id, type LayerBase, layerShape, usualLayer } from '../layerBase.ts';
import type { LayerKind } from './kind.ts';

export interface PaintLayer extends LayerBase {
	readonly kind: 'paint';
	readonly surface: SurfaceId;
	/** Where it says which entry of the palette each texel points at: it holds their colours alone. */
	readonly entries?: SurfaceId | null;
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
	shape: layerShape({ kind: one('paint'), surface: id, entries: orNull(id) }, ['entries']),
	own: { entries: { words: 'Entries', without: 'holds no texels that could point at entries' } },
	finishes: true,
	source: (layer, at) => at.surface(layer.surface) ?? 0,
	noPaint: () => null,
};
