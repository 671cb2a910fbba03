import { automatic } from './automatic.ts';
import { box } from './box.ts';
import { cylinder } from './cylinder.ts';
import { flat } from './flat.ts';
import type { LaidFlat, UnwrapDoing, UnwrapGround, UnwrapKind } from './kind.ts';
import { angle, seams } from './seams.ts';
import { sphere } from './sphere.ts';
import { straight } from './straight.ts';

/** Every way to lay faces flat: a new one is a line here. */
export const unwrapKinds = [automatic, seams, angle, straight, flat, box, cylinder, sphere] as const;

type WayOf<K> = K extends UnwrapKind<infer W> ? W : never;
export type UnwrapWay = WayOf<(typeof unwrapKinds)[number]>;

/** The kind of a way. */
export function unwrapKindOf(way: UnwrapDoing): UnwrapKind<UnwrapDoing> {
	const found = (unwrapKinds as unknown as readonly UnwrapKind<UnwrapDoing>[]).find((kind) => kind.way === way.way);
	if (!found) throw new Error(`There is no way to unwrap called "${way.way}".`);
	return found;
}

/** Lays faces flat. */
export const layFaces = (way: UnwrapWay, ground: UnwrapGround): LaidFlat => unwrapKindOf(way).lay(way, ground);
