import { glb } from './glb.ts';
import { gltf } from './gltf.ts';
import type { ModelKind } from './kind.ts';
import { obj } from './obj.ts';
import { ply } from './ply.ts';

export type { ModelKind } from './kind.ts';

/** The kinds of model files: a new one is a line here. */
export const modelKinds: readonly ModelKind[] = [glb, gltf, obj, ply];

/** The kind of model file of a name. */
export function modelKindOf(kind: string): ModelKind {
	const found = modelKinds.find((each) => each.kind === kind);
	if (!found) throw new RangeError(`There are no model files "${kind}".`);
	return found;
}
