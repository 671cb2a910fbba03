import { grownRect } from '../../raster/index.ts';
import { one, shared } from '../../shape/index.ts';
import { type PointTone, type ToneOp, toneKindOf } from '../../tone/index.ts';
import { type Id, type LayerBase, layerShape, usualLayer } from '../layerBase.ts';
import type { LayerKind } from './kind.ts';

/** Changes the tones of what lies below it, or of the layer that it is clipped to. */
export interface AdjustLayer extends LayerBase {
	readonly kind: 'adjust';
	readonly tone: ToneOp;
}

export const adjustLayer = (id: Id, name: string, tone: ToneOp, change: Partial<LayerBase> = {}): AdjustLayer => ({
	...usualLayer,
	...change,
	id,
	name,
	kind: 'adjust',
	tone,
});

export const adjust: LayerKind<AdjustLayer> = {
	kind: 'adjust',
	words: 'Tones',
	shape: layerShape({ kind: one('adjust'), tone: shared('tone') }),
	own: { tone: { words: 'Tones', without: 'changes no tones' } },
	finishes: false,
	source({ tone }, at) {
		if (toneKindOf(tone).looks === 'point') return { adjust: tone as PointTone };
		const made = at.content();
		return made ? { adjust: made } : 0;
	},
	content({ tone }) {
		const kind = toneKindOf(tone);
		if (kind.looks === 'point') return null;
		const reach = kind.reach(tone);
		return {
			says: tone,
			pictures: [],
			below: true,
			reach,
			make: (rect, { below }) => kind.block(tone, below(grownRect(rect, reach)), rect),
		};
	},
	noPaint: ({ name }) => ({
		code: 'no-pixels',
		text: `"${name}" changes the tones below it and has no pixels of its own; its mask can be painted.`,
		instead: 'layer',
	}),
};
