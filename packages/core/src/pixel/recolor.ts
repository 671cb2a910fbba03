import type { Hex } from '../color/index.ts';
import { hex, list, type Shape, strict, words } from '../shape/index.ts';
import { type Packed, packedOf } from './colors.ts';
import type { ColorPair } from './mapping.ts';

/** Colours that change in many textures at once: in all whose paths have every word of `only`. */
export interface Recolor {
	readonly pairs: readonly ColorPair[];
	readonly only: string;
}

/** More pairs, and more changes one after the other, are not kept. */
export const [MOST_PAIRS, MOST_RECOLORS] = [4096, 64];

export const recolorShape: Shape = strict({ pairs: list(list(hex, 2, 2), MOST_PAIRS, 1), only: words(0, 200) });

/** Whether a path has every word that is looked for, however it is written. */
export const pathHas = (path: string, asked: string): boolean => {
	const low = path.toLowerCase();
	return asked
		.toLowerCase()
		.split(/\s+/)
		.every((word) => low.includes(word));
};

/** The changes of a texture of a path, in their order. */
export const recolorsFor = (path: string, recolors: readonly Recolor[]): readonly Recolor[] =>
	recolors.filter(({ only }) => pathHas(path, only));

/** A texture with changes of its colours, one after the other; the same where none changes it. */
export function recoloredBy<Texture extends { readonly data: Uint8Array }>(
	texture: Texture,
	recolors: readonly Recolor[],
): Texture {
	const data = recolors.reduce((texels, { pairs }) => recoloredTexels(texels, pairs), texture.data);
	return data === texture.data ? texture : { ...texture, data };
}

/** Texels (RGBA8) with other colours; their alpha stays, and those that are clear stay wholly. The same bytes where none changes. */
export function recoloredTexels<Data extends Uint8Array>(data: Data, pairs: readonly ColorPair[]): Data {
	const to = new Map<Packed, Packed>(
		pairs.map(([from, next]: readonly [Hex, Hex]) => [packedOf(from), packedOf(next)]),
	);
	const words = new Uint32Array(data.slice().buffer);
	let changed = false;
	for (let i = 0; i < words.length; i++) {
		const word = words[i] as number;
		const next = word >>> 24 ? to.get(word & 0xffffff) : undefined;
		if (next === undefined || next === (word & 0xffffff)) continue;
		words[i] = ((word & 0xff000000) | next) >>> 0;
		changed = true;
	}
	return changed ? (new Uint8Array(words.buffer) as Data) : data;
}
