import { innerRing, less } from '../pixel/index.ts';
import type { Check } from './kind.ts';
import { boxOf, heldIn, lightnessIn, mean } from './look.ts';

export const outlineLight: Check = {
	name: 'outline-light',
	label: 'Outline lighter than the inside',
	threshold: { label: 'Lighter by', least: 0, most: 0.5, usual: 0.02, percent: true },
	find({ picture }, threshold) {
		const held = heldIn(picture);
		const ring = innerRing(held, 4);
		const inside = lightnessIn(picture, less(held, ring));
		if (!inside.length) return [];
		const by = mean(lightnessIn(picture, ring)) - mean(inside);
		if (by <= threshold) return [];
		return [
			{
				text: `The outline is lighter than what it surrounds, by ${Math.round(by * 100)} of 100: the item does not stand out.`,
				place: boxOf(ring),
				mend: {
					label: 'Darken the outline a step',
					edit: { do: 'outline', rim: { of: 'outline', touching: 4, side: null }, act: { to: 'step', by: -1 } },
				},
			},
		];
	},
};
