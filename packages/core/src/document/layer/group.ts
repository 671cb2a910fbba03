import { bool, list, one, shared } from '../../shape/index.ts';
import { type Id, type LayerBase, layerShape, usualLayer } from '../layerBase.ts';
import type { AnyLayer, LayerKind } from './kind.ts';

/** Layers that belong together, bottom first. */
export interface GroupOf<L> extends LayerBase {
	readonly kind: 'group';
	readonly layers: readonly L[];
	/** Blended on nothing and laid as one; else its layers blend with what lies below the group. */
	readonly isolated: boolean;
}

export const groupLayer = <L>(
	id: Id,
	name: string,
	layers: readonly L[],
	change: Partial<LayerBase> & { readonly isolated?: boolean } = {},
): GroupOf<L> => ({ ...usualLayer, isolated: false, ...change, id, name, kind: 'group', layers });

export const group: LayerKind<GroupOf<AnyLayer>> = {
	kind: 'group',
	words: 'Group',
	shape: layerShape({ kind: one('group'), isolated: bool, layers: list(shared('layer'), 500) }),
	own: { isolated: { words: 'Blending', without: 'is no group' } },
	finishes: true,
	// A mode of its own needs something to be blended: the group as one.
	source: (layer, at) => ({ group: at.stack(layer.layers), isolated: layer.isolated || layer.mode !== 'normal' }),
	noPaint: ({ name }) => ({
		code: 'no-pixels',
		text: `"${name}" is a group: paint lands on the layers in it.`,
		instead: 'layer',
	}),
};
