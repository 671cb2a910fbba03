import type { Ground, Triple } from '../recipe/index.ts';
import { normals } from './bake/normals.ts';
import type { Slopes } from './relief.ts';
import { flatPlanes, leaned } from './shade.ts';

/** One way in which relief is a picture for other programs. */
export interface ReliefLook {
	readonly look: string;
	readonly name: string;
	/** Of normals: of the model's own axes, or of the surface, and whether green looks down there; null for heights. */
	readonly normals: { readonly space: 'object' | 'tangent'; readonly down: boolean } | null;
}

export const reliefLooks: readonly ReliefLook[] = [
	{ look: 'heights', name: 'Relief heights', normals: null },
	{ look: 'normals', name: 'Relief normals', normals: { space: 'tangent', down: false } },
	{ look: 'normals-down', name: 'Relief normals, green down', normals: { space: 'tangent', down: true } },
	{ look: 'normals-object', name: 'Relief normals of the object', normals: { space: 'object', down: false } },
];

/** Normals that lean on slopes as planes of 0..1; null where there is no surface. On a sheet without a model they look to the front. */
export function reliefValues(
	ground: Ground,
	{ space, down }: NonNullable<ReliefLook['normals']>,
	slopes: Slopes | null,
): readonly Float32Array[] | null {
	const { planes, surface, width, height } = ground;
	const count = width * height;
	const plain = surface?.normal ?? flatPlanes(ground).normal;
	const normal: Triple = slopes ? leaned(ground, { cells: surface?.cells ?? 0, normal: plain }, slopes) : plain;
	const fields = surface
		? normals.fields({ id: '', name: '', bake: 'normals', space }, { ...ground, surface: { ...surface, normal } })
		: normal;
	if (!fields) return null;
	const out = fields.map((at) => planes.floats(at, count).slice());
	if (!surface) for (const plane of out) plane.forEach((v, i) => (plane[i] = v / 2 + 0.5));
	if (down) out[1]?.forEach((v, i, plane) => (plane[i] = 1 - v));
	return out;
}
