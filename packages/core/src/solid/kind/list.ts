import { layAllAnew } from '../../arrange/index.ts';
import { layOut } from '../../layout/index.ts';
import { type LaidMesh, layingNowhere } from '../../mesh/index.ts';
import { meshOfBody } from '../solid.ts';
import { box, plane, plank } from './box.ts';
import type { SolidDoing, SolidKind } from './kind.ts';
import { cylinder, lathe, ring, sphere } from './round.ts';

/** Every shape that a project can begin with: a new one is a line here. */
export const solidKinds = [box, cylinder, sphere, plane, plank, ring, lathe] as const;

type SolidOf<K> = K extends SolidKind<infer S> ? S : never;
export type Solid = SolidOf<(typeof solidKinds)[number]>;

/** The kind of a shape. */
export function solidKindOf(solid: SolidDoing): SolidKind<SolidDoing> {
	const found = (solidKinds as unknown as readonly SolidKind<SolidDoing>[]).find((kind) => kind.solid === solid.solid);
	if (!found) throw new Error(`There is no shape called "${solid.solid}".`);
	return found;
}

/** Texels along the sheet for which a shape is first laid out. */
const SIDE = 1024;

/** A shape as a mesh, laid out. */
export function solidMesh(solid: Solid): LaidMesh {
	const kind = solidKindOf(solid);
	const mesh = layingNowhere(meshOfBody(kind.body(solid), kind.words));
	return layOut(mesh, layAllAnew(mesh, kind.way, SIDE));
}
