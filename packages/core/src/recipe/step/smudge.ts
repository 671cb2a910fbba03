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
	work({ length, turn }, field, { planes, width, height, scale }) {
		const long = length / scale;
		if (long < 0.5) return;
		const by = Math.ceil(long / 2) + 1;
		const wide = planes.take((width + 2 * by) * (height + 2 * by));
		planes.run.widenField(field, width, height, by, wide);
		const taps = Math.max(1, Math.min(65, Math.ceil(long)));
		const angle = (turn * Math.PI) / 180;
		planes.run.smudgeField(wide, width, height, by, taps, long, Math.cos(angle), Math.sin(angle), field);
	},
};
