import { blurField, blurReach } from '../../raster/index.ts';
import { one, real, strict } from '../../shape/index.ts';
import { softenedBlock } from '../area.ts';
import type { AreaKind } from '../kind.ts';

/** Away from its own blur by `amount` (0..3); alpha stays as it was. */
export interface Sharpen {
	readonly op: 'sharpen';
	readonly amount: number;
	readonly radius: number;
}

export const sharpen: AreaKind<Sharpen> = {
	op: 'sharpen',
	words: 'Sharpen',
	looks: 'area',
	shape: strict({ op: one('sharpen'), amount: real(0, 3), radius: real(0.3, 32) }),
	usual: { op: 'sharpen', amount: 0.8, radius: 1.5 },
	dials: [
		{ of: 'amount', label: 'Amount', least: 0, most: 3, usual: 0.8 },
		{ of: 'radius', label: 'Radius', least: 0.3, most: 32, usual: 1.5, unit: ' px', ratio: true },
	],
	reach: ({ radius }) => blurReach(radius),
	block: ({ amount, radius }, block, rect) =>
		softenedBlock(
			block,
			rect,
			(field, width, height) => blurField(field, width, height, radius),
			(soft, was, own) => (own ? was + amount * (was - soft) : 0),
			true,
		),
};
