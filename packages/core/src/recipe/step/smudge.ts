import { blurAlong } from '../../raster/index.ts';
import { degrees, one, real } from '../../shape/index.ts';
import { type ShaperKind, shaperShape } from './kind.ts';

export interface Smudge {
	readonly step: 'smudge';
	readonly length: number;
	readonly turn: number;
}

export const smudge: ShaperKind<Smudge> = {
	step: 'smudge',
	words: 'Blur along a direction',
	takes: 'shaper',
	shape: shaperShape({ step: one('smudge'), length: real(0, 128), turn: degrees }),
	usual: { step: 'smudge', length: 20, turn: 90 },
	dials: [
		{ of: 'length', label: 'Length', least: 0, most: 128, unit: ' px' },
		{ of: 'turn', label: 'Turn', least: -180, most: 180, unit: '°' },
	],
	reach: ({ length }) => Math.ceil(length / 2) + 1,
	shaped: ({ length, turn }, field, { width, height, scale }) =>
		blurAlong(field, width, height, length / scale, (turn * Math.PI) / 180),
};
