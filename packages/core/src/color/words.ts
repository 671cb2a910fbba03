import { oklchOfHex } from './oklch.ts';
import type { Hex } from './srgb.ts';

/** Hues in the painter's words, by the OKLCH hue at which each ends; dark ones of some have a name of their own. */
const hues: readonly (readonly [until: number, word: string, dark?: string])[] = [
	[12, 'rose', 'wine'],
	[34, 'red', 'maroon'],
	[55, 'rust', 'brown'],
	[78, 'orange', 'brown'],
	[95, 'amber', 'brown'],
	[112, 'yellow', 'olive'],
	[128, 'lime', 'olive'],
	[155, 'green'],
	[185, 'mint', 'pine'],
	[215, 'teal'],
	[245, 'sky', 'petrol'],
	[282, 'blue', 'navy'],
	[305, 'violet'],
	[335, 'plum'],
	[352, 'pink', 'wine'],
	[360, 'rose', 'wine'],
];

/** A colour in a word or two: "Rust", "Light sky", "Dark green", "Grey". What the eye takes for grey is called so. */
export function colorWords(hex: Hex): string {
	const { l, c, h } = oklchOfHex(hex);
	const [, word, dark] = hues.find(([until]) => h < until) ?? ['', 'rose', 'wine'];
	const plain = c < 0.022;
	const name = plain ? (l > 0.95 ? 'white' : l < 0.2 ? 'black' : 'grey') : l < 0.52 && dark ? dark : word;
	const shade =
		name === 'white' || name === 'black'
			? ''
			: l > 0.84
				? 'light '
				: l < 0.32 || (l < 0.45 && name === word)
					? 'dark '
					: '';
	const words = `${shade}${name}`;
	return `${words[0]?.toUpperCase()}${words.slice(1)}`;
}
