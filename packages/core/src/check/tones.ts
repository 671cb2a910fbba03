import type { Edit } from '../edit/index.ts';
import type { Check, Finding } from './kind.ts';
import { boxOf, heldIn, lightnessIn, mean } from './look.ts';

/** Lightness (OKLab) below which a thing is lost on dark ground, and above which on light. */
const DARK = 0.32;
const PALE = 0.86;

const step = (of: 'inside' | 'outline', by: 1 | -1): Edit => ({
	do: 'outline',
	rim: { of, touching: 4, side: null },
	act: { to: 'step', by },
});

export const tones: Check = {
	name: 'tones',
	label: 'Too dark, too pale or too flat',
	threshold: { label: 'Spread', least: 0, most: 0.6, usual: 0.2, percent: true },
	find({ picture }, threshold) {
		const held = heldIn(picture);
		const all = lightnessIn(picture, held);
		if (!all.length) return [];
		const place = boxOf(held);
		const out: Finding[] = [];
		const middle = mean(all);
		const at = (share: number): number => all[Math.floor(share * (all.length - 1))] as number;
		const span = at(0.95) - at(0.05);
		if (middle < DARK)
			out.push({
				text: `It is dark, ${Math.round(middle * 100)} of 100 on average: on dark ground it is lost.`,
				place,
				mend: { label: 'Lighten the inside a step', edit: step('inside', 1) },
			});
		if (middle > PALE)
			out.push({
				text: `It is pale, ${Math.round(middle * 100)} of 100 on average: on light ground it is lost.`,
				place,
				mend: { label: 'Darken the outline a step', edit: step('outline', -1) },
			});
		if (span < threshold)
			out.push({
				text: `It is flat: its tones lie within ${Math.round(span * 100)} of 100.`,
				place,
				mend:
					middle < 0.5
						? { label: 'Lighten the inside a step', edit: step('inside', 1) }
						: { label: 'Darken the outline a step', edit: step('outline', -1) },
			});
		return out;
	},
};
