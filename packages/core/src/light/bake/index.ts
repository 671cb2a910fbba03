import { byTag, type Shape } from '../../shape/index.ts';
import { type IdsBake, ids } from './ids.ts';
import type { BakeBase, BakeKind } from './kind.ts';
import { type NormalsBake, normals } from './normals.ts';
import { type ToneBake, tone } from './tone.ts';

/** A picture of a model's shape that is kept with the project. */
export type Bake = ToneBake | NormalsBake | IdsBake;

/** Every kind of bake: a new one is a line here, and one in `Bake`. */
export const bakeKinds = [tone, normals, ids] as unknown as readonly BakeKind<
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
