import { blurAlong } from '../../raster/index.ts';
import { degrees, one, real, strict } from '../../shape/index.ts';
import { softenedBlock } from '../area.ts';
import type { AreaKind } from '../kind.ts';

export interface SmudgeTone {
	readonly op: 'smudge';
	readonly length: number;
	/** Degrees. */
	readonly turn: number;
}

export const smudge: AreaKind<SmudgeTone> = {
	op: 'smudge',
	words: 'Blur along a direction',
	looks: 'area',
	shape: strict({ op: one('smudge'), length: real(0, 128), turn: degrees }),
	usual: { op: 'smudge', length: 24, turn: 0 },
	dials: [
		{ of: 'length', label: 'Length', least: 1, most: 128, usual: 24, unit: ' px', ratio: true },
		{ of: 'turn', label: 'Direction', least: -90, most: 90, usual: 0, unit: '°' },
	],
	reach: ({ length }) => Math.ceil(length / 2) + 1,
	block: ({ length, turn }, block, rect) =>
		softenedBlock(
			block,
			rect,
			(field, width, height) => blurAlong(field, width, height, length, (turn * Math.PI) / 180),
			(soft) => soft,
			false,
		),
};
