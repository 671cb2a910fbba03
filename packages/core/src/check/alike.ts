import { hexOfPacked, labOf, type Packed } from '../pixel/index.ts';
import type { Check, Finding } from './kind.ts';
import { boxOf, countsOf, masked } from './look.ts';

/** Pairs that are told at the most. */
const MOST = 12;

export const alike: Check = {
	name: 'alike',
	label: 'Colours nearly the same',
	threshold: { label: 'Apart by', least: 0, most: 10, usual: 2 },
	find({ picture }, threshold) {
		const counts = [...countsOf(picture)].sort((a, b) => b[1] - a[1]);
		const out: Finding[] = [];
		const apart = (a: Packed, b: Packed): number =>
			100 * Math.hypot(...labOf(a).map((v, k) => v - (labOf(b)[k] as number)));
		counts.slice(0, 256).forEach(([color], i) => {
			const nearer = counts.slice(0, i).find(([other]) => apart(color, other) < threshold);
			if (!nearer || out.length >= MOST) return;
			const [from, to] = [hexOfPacked(color), hexOfPacked(nearer[0])];
			out.push({
				text: `${from} and ${to} can hardly be told apart.`,
				place: boxOf(masked(picture, (word) => word >>> 24 > 0 && (word & 0xffffff) === color)),
				mend: { label: 'Make them one', edit: { do: 'recolor', pairs: [[from, to]] } },
			});
		});
		return out;
	},
};
