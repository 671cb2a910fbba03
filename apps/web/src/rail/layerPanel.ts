import type { Layer, Sheet } from '@eppu/core/document';
import type { LayerChangeOf } from '../actions/layers.ts';

/** What a panel of the Layer drawer is given. */
export interface LayerPanelProps<L extends Layer = Layer> {
	readonly sheet: Sheet;
	readonly layer: L;
	readonly change: (what: LayerChangeOf) => void;
}
