import { byTag, type Shape } from '../../shape/index.ts';
import { type IdsBake, ids } from './ids.ts';
import type { BakeBase, BakeKind } from './kind.ts';
import { type MapBake, map } from './map.ts';
import { type NormalsBake, normals } from './normals.ts';
import { type ToneBake, tone } from './tone.ts';
import { type VertexBake, vertex } from './vertex.ts';

/** A picture of a model's shape that is kept with the project. */
export type Bake = ToneBake | NormalsBake | IdsBake | VertexBake | MapBake;

/** Every kind of bake: a new one is a line here, and one in `Bake`. */
export const bakeKinds = [tone, normals, ids, vertex, map] as unknown as readonly BakeKind<
	BakeBase & { readonly bake: Bake['bake'] }
>[];

/** The kind of a bake. */
export function bakeKindOf(bake: Bake): BakeKind<Bake> {
	const found = bakeKinds.find((kind) => kind.bake === bake.bake);
	if (!found) throw new Error(`There is no kind of bake "${bake.bake}".`);
	return found as unknown as BakeKind<Bake>;
}

export const anyBakeShape = (): Shape =>
	byTag(
		'bake',
		bakeKinds.map(({ shape }) => shape),
	);

/** Whether a bake is a tone, and so can be read as one. */
export const isToneBake = (bake: Bake): boolean => bakeKindOf(bake).format === 'deep';
