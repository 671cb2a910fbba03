import { hexOfPacked, packedOf, pixelColors } from '../pixel/index.ts';
import type { Check } from './kind.ts';
import { boxOf, countsOf, many, masked } from './look.ts';

export const ofSet: Check = {
	name: 'of-set',
	label: 'Colours that no other item has',
	find({ picture, set }) {
		if (!set?.size) return [];
		const own = [...countsOf(picture).keys()].filter((color) => !set.has(color));
		if (!own.length) return [];
		const near = pixelColors({ name: '', colors: [...set].map(hexOfPacked) });
		const off = new Set(own);
		return [
			{
				text: `${many(own.length, 'colour is', 'colours are')} in no other item of the set.`,
				place: boxOf(masked(picture, (word) => word >>> 24 > 0 && off.has(word & 0xffffff))),
				mend: {
					label: 'Take the nearest of the set',
					edit: {
						do: 'recolor',
						pairs: own.map(
							(color) => [hexOfPacked(color), hexOfPacked(near.nearest(packedOf(hexOfPacked(color))))] as const,
						),
					},
				},
			},
		];
	},
};
