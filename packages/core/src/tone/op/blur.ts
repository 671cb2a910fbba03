import { blurField, blurReach } from '../../raster/index.ts';
import { one, real, strict } from '../../shape/index.ts';
import { softenedBlock } from '../area.ts';
import type { AreaKind } from '../kind.ts';

export interface BlurTone {
	readonly op: 'blur';
	readonly radius: number;
}

export const blur: AreaKind<BlurTone> = {
	op: 'blur',
	words: 'Blur',
	looks: 'area',
	shape: strict({ op: one('blur'), radius: real(0, 64) }),
	usual: { op: 'blur', radius: 4 },
	dials: [{ of: 'radius', label: 'Radius', least: 0.5, most: 64, usual: 4, unit: ' px', ratio: true }],
	reach: ({ radius }) => blurReach(radius),
	block: ({ radius }, block, rect) =>
		softenedBlock(
			block,
			rect,
			(field, width, height) => blurField(field, width, height, radius),
			(soft) => soft,
			false,
		),
};
