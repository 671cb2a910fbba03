import { clear } from './clear.ts';
import { fill } from './fill.ts';
import { flood } from './flood.ts';
import { gradient } from './gradient.ts';
import type { Changing, EditKind } from './kind.ts';
import { outline } from './outline.ts';
import { recolor } from './recolor.ts';
import { shape } from './shape.ts';
import { texels } from './texels.ts';
import { tone } from './tone.ts';
import { transform } from './transform.ts';
import { wholeTexels } from './whole.ts';

/** Every change of pixels that is made at once: a new one is a line here. */
export const editKinds = [
	shape,
	gradient,
	tone,
	clear,
	fill,
	flood,
	transform,
	outline,
	recolor,
	wholeTexels,
	texels,
] as const;

type EditOf<K> = K extends EditKind<infer E> ? E : never;
export type Edit = EditOf<(typeof editKinds)[number]>;

/** The kind of an edit. */
export function editKindOf(edit: Changing): EditKind<Changing> {
	const found = (editKinds as unknown as readonly EditKind<Changing>[]).find((kind) => kind.do === edit.do);
	if (!found) throw new Error(`There is no edit "${edit.do}".`);
	return found;
}
