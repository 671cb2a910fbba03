import { withinTones } from '../../select/index.ts';
import { one, share } from '../../shape/index.ts';
import { fieldBy, type SourceKind, sourceShape, unitDial } from './kind.ts';
import { tapped } from './tap.ts';

/** A range of another layer's tones: `low` to `high` are whole, fading over `soft`. */
export interface Tones {
	readonly step: 'tones';
	readonly layer: string;
	readonly low: number;
	readonly high: number;
	readonly soft: number;
}

export const tones: SourceKind<Tones> = {
	step: 'tones',
	words: 'Tone range of a layer',
	takes: 'source',
	shape: sourceShape({ step: one('tones'), layer: tapped, low: share, high: share, soft: share }),
	usual: { step: 'tones', layer: '', low: 0.5, high: 1, soft: 0.15 },
	dials: [unitDial('low', 'From'), unitDial('high', 'To'), unitDial('soft', 'Soft')],
	taps: ({ layer }) => [{ layer, of: 'tone' }],
	field({ layer, low, high, soft }, ground) {
		const tone = ground.tap(layer, 'tone');
		const shape = ground.tap(layer, 'shape');
		if (!tone || !shape) return null;
		return fieldBy(
			ground,
			(i) => ((shape[i] as number) / 255) * withinTones((tone[i] as number) / 255, low, high, soft),
		);
	},
};
