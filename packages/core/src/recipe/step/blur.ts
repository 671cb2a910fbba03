import { blurReach, boxRadii } from '../../raster/index.ts';
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
	work({ radius }, field, { planes, width, height, scale }) {
		const radii = boxRadii(radius / scale);
		const lines = planes.take(8 * Math.max(width, height));
		for (const r of radii) planes.run.boxField(field, width, height, r, lines);
	},
};
