import type { Check } from './kind.ts';
import { boxOf, many, masked } from './look.ts';

export const half: Check = {
	name: 'half',
	label: 'Half-transparent texels',
	find({ picture }) {
		const mask = masked(picture, (word) => word >>> 24 > 0 && word >>> 24 < 255);
		const count = mask.data.reduce((sum, v) => sum + v, 0);
		if (!count) return [];
		return [
			{
				text: `${many(count, 'texel is', 'texels are')} neither there nor gone: in the hand they look flat or leave holes.`,
				place: boxOf(mask),
				mend: { label: 'Make them whole', edit: { do: 'whole', colors: false } },
			},
		];
	},
};
