import { hexOfPacked, innerRing, less, type Packed, type TexelMask, withoutRim } from '../pixel/index.ts';
import type { Check } from './kind.ts';
import { boxOf, heldIn, wordsOf } from './look.ts';

/** The colour that most texels of a mask have; undefined where there are none. */
function mainColor(words: Uint32Array, { data }: TexelMask, but?: Packed): Packed | undefined {
	const counts = new Map<Packed, number>();
	data.forEach((v, i) => {
		const color = (words[i] as number) & 0xffffff;
		if (v && color !== but) counts.set(color, (counts.get(color) ?? 0) + 1);
	});
	return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0];
}

export const thickness: Check = {
	name: 'thickness',
	label: 'Outline thick here and thin there',
	threshold: { label: 'Uneven', least: 0.05, most: 0.5, usual: 0.15, percent: true },
	find({ picture }, threshold) {
		const [held, words] = [heldIn(picture), wordsOf(picture)];
		const ring = innerRing(held, 4);
		const within = withoutRim(held, 1);
		const second = less(within, withoutRim(held, 2));
		const line = mainColor(words, ring);
		const inside = line === undefined ? undefined : mainColor(words, within, line);
		if (line === undefined || inside === undefined) return [];
		const thick = {
			...second,
			data: second.data.map((v, i) => (v && ((words[i] as number) & 0xffffff) === line ? 1 : 0)),
		};
		const [all, some] = [second, thick].map(({ data }) => data.reduce((sum, v) => sum + v, 0)) as [number, number];
		const share = some / (all || 1);
		if (share < threshold || share > 1 - threshold) return [];
		const set: [number, number, string][] = [];
		thick.data.forEach((v, i) => {
			if (v) set.push([i % held.width, Math.floor(i / held.width), hexOfPacked(inside)]);
		});
		return [
			{
				text: `The outline is two texels thick along ${Math.round(share * 100)} of 100 of the way, and one elsewhere.`,
				place: boxOf(thick),
				mend: { label: 'Make it one thick', edit: { do: 'texels', set } },
			},
		];
	},
};
