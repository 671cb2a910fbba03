import { blurField, blurReach } from '../../raster/index.ts';
import { one, real } from '../../shape/index.ts';
import { type ShaperKind, shaperShape } from './kind.ts';

export interface Blur {
	readonly step: 'blur';
	readonly radius: number;
}

export const blur: ShaperKind<Blur> = {
	step: 'blur',
	words: 'Blur',
	takes: 'shaper',
	shape: shaperShape({ step: one('blur'), radius: real(0, 64) }),
	usual: { step: 'blur', radius: 4 },
	dials: [{ of: 'radius', label: 'Radius', least: 0, most: 64, unit: ' px' }],
	reach: ({ radius }) => blurReach(radius),
	shaped: ({ radius }, field, { width, height, scale }) => blurField(field, width, height, radius / scale),
};
