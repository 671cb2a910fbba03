import type { TexelMap } from '../atlas/index.ts';
import type { LaidMesh } from '../mesh/index.ts';

/** A model as it lies on a sheet: which of its faces do, and which texels they have. */
export interface Lying {
	readonly model: string;
	readonly mesh: LaidMesh;
	readonly islandOfFace: Uint32Array;
	readonly map: TexelMap;
}

/** Whose the texels of a sheet are, gutters included. */
export interface Owners {
	/** Island + 1, 0 where there is none. */
	readonly owner: Uint32Array;
	/** 1 where the texel, one before it and two after it either way are all of one island: a cubic needs no care there. */
	readonly deep: Uint8Array;
}

export function ownersOf({ map, islandOfFace }: Lying): Owners {
	const { width, height } = map;
	const owner = new Uint32Array(width * height);
	for (let i = 0; i < owner.length; i++) {
		const face = map.faceOfTexel[i] as number;
		if (face) owner[i] = (islandOfFace[face - 1] as number) + 1;
	}
	for (let g = 0; g < map.gutterTexel.length; g++)
		owner[map.gutterTexel[g] as number] = owner[map.gutterSource[g] as number] as number;
	/** Texels of one island in a row, from one before to two after. */
	const rows = new Uint8Array(owner.length);
	const deep = new Uint8Array(owner.length);
	for (let y = 0; y < height; y++)
		for (let x = 1, i = y * width + 1; x + 2 < width; x++, i++) {
			const own = owner[i] as number;
			if (own && owner[i - 1] === own && owner[i + 1] === own && owner[i + 2] === own) rows[i] = 1;
		}
	for (let y = 1; y + 2 < height; y++)
		for (let x = 1, i = y * width + 1; x + 2 < width; x++, i++) {
			if (!(rows[i] && rows[i - width] && rows[i + width] && rows[i + 2 * width])) continue;
			const own = owner[i] as number;
			if (owner[i - width] === own && owner[i + width] === own && owner[i + 2 * width] === own) deep[i] = 1;
		}
	return { owner, deep };
}
