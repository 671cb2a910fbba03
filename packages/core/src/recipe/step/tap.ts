import { among, one, pattern } from '../../shape/index.ts';
import type { TapOf } from '../ground.ts';
import { type SourceKind, sourceShape, toneField } from './kind.ts';

export const tapped = pattern('^[A-Za-z0-9_-]{0,64}$');

/** Another layer, live. */
export interface Tap {
	readonly step: 'tap';
	readonly layer: string;
	readonly of: TapOf;
}

export const tap: SourceKind<Tap> = {
	step: 'tap',
	words: 'Tap another layer',
	takes: 'source',
	shape: sourceShape({ step: one('tap'), layer: tapped, of: among(['tone', 'shape', 'mask']) }),
	usual: { step: 'tap', layer: '', of: 'tone' },
	dials: [],
	choices: [
		{
			of: 'of',
			label: 'What of it',
			options: [
				['tone', 'Tone'],
				['shape', 'Shape'],
				['mask', 'Mask'],
			],
		},
	],
	taps: ({ layer, of }) => [{ layer, of }],
	field: ({ layer, of }, ground) => toneField(ground, ground.tap(layer, of)),
};
