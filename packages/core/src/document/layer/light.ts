import { bakesOfRig, isShaded, type Rig, rigNumbers, shadeBlock } from '../../light/index.ts';
import { one, shared } from '../../shape/index.ts';
import { type Id, type LayerBase, layerShape, usualLayer } from '../layerBase.ts';
import type { LayerKind } from './kind.ts';

/** Light on the model, computed from a rig and from bakes. */
export interface LightLayer extends LayerBase {
	readonly kind: 'light';
	readonly rig: Rig;
}

export const lightLayer = (id: Id, name: string, rig: Rig, change: Partial<LayerBase> = {}): LightLayer => ({
	...usualLayer,
	...change,
	id,
	name,
	kind: 'light',
	rig,
});

export const light: LayerKind<LightLayer> = {
	kind: 'light',
	words: 'Light',
	shape: layerShape({ kind: one('light'), rig: shared('rig') }),
	own: { rig: { words: 'Light', without: 'is no light layer' } },
	finishes: true,
	source: (_layer, at) => at.content() ?? 0,
	content({ rig }) {
		let numbers: Float32Array | null = null;
		return {
			says: rig,
			pictures: [],
			below: false,
			reach: 0,
			model: { bakes: bakesOfRig(rig) },
			relief: isShaded(rig),
			make: (rect, { ground, relief }) =>
				ground(rect, (each) => shadeBlock(rig, (numbers ??= rigNumbers(rig)), each, relief(each.planes, rect))),
		};
	},
	noPaint: ({ name }) => ({
		code: 'no-pixels',
		text: `"${name}" is light that is computed. Strokes go on its mask, or on a paint layer above it.`,
		instead: 'mask',
	}),
};
