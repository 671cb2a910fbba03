import { hexOfPacked } from '../pixel/index.ts';
import type { Check } from './kind.ts';
import { boxOf, countsOf, many, masked } from './look.ts';

export const offPalette: Check = {
	name: 'off-palette',
	label: 'Colours off the palette',
	find({ picture, palette }) {
		const strange = [...countsOf(picture).keys()].filter((color) => !palette.has(color));
		if (!strange.length || !palette.all.length) return [];
		const off = new Set(strange);
		return [
			{
				text: `${many(strange.length, 'colour is', 'colours are')} not in the palette.`,
				place: boxOf(masked(picture, (word) => word >>> 24 > 0 && off.has(word & 0xffffff))),
				mend: {
					label: 'Take the nearest',
					edit: {
						do: 'recolor',
						pairs: strange.map((color) => [hexOfPacked(color), hexOfPacked(palette.nearest(color))] as const),
					},
				},
			},
		];
	},
};
