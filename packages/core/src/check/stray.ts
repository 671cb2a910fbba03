import type { TexelMask } from '../pixel/index.ts';
import type { Check } from './kind.ts';
import { boxOf, heldIn, many } from './look.ts';

/** Texels that join each other at sides or corners: each piece as the places of its texels. */
function piecesOf({ width, height, data }: TexelMask): number[][] {
	const seen = new Uint8Array(data.length);
	const out: number[][] = [];
	for (let start = 0; start < data.length; start++) {
		if (!data[start] || seen[start]) continue;
		const piece = [start];
		seen[start] = 1;
		for (const i of piece) {
			const [x, y] = [i % width, Math.floor(i / width)];
			for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++)
				for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
					const j = v * width + u;
					if (!data[j] || seen[j]) continue;
					seen[j] = 1;
					piece.push(j);
				}
		}
		out.push(piece);
	}
	return out;
}

export const stray: Check = {
	name: 'stray',
	label: 'Stray texels',
	threshold: { label: 'Up to', least: 1, most: 16, usual: 1 },
	find({ picture }, threshold) {
		const held = heldIn(picture);
		const pieces = piecesOf(held).sort((a, b) => b.length - a.length);
		const small = pieces.slice(1).filter((piece) => piece.length <= threshold);
		if (!small.length) return [];
		const texels = small.flat();
		const mask = { ...held, data: new Uint8Array(held.data.length) };
		for (const i of texels) mask.data[i] = 1;
		return [
			{
				text: `${many(texels.length, 'texel stands', 'texels stand')} apart from the rest.`,
				place: boxOf(mask),
				mend: {
					label: 'Take them away',
					edit: {
						do: 'texels',
						set: texels.map((i) => [i % held.width, Math.floor(i / held.width), null] as const),
					},
				},
			},
		];
	},
};
