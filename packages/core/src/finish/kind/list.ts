import { byTag, type Shape } from '../../shape/index.ts';
import type { AnyFinish, FinishKind } from './kind.ts';
import { outline } from './outline.ts';
import { pattern } from './pattern.ts';
import { stitch } from './stitch.ts';
import { tint } from './tint.ts';

/** Every finish, in the order in which they are offered: a new one is a line here. */
export const finishKinds = [outline, tint, pattern, stitch] as const;

type FinishOf<K> = K extends FinishKind<infer F> ? F : never;
/** A change of a layer's look that follows its shape and can be changed at any time. */
export type Finish = FinishOf<(typeof finishKinds)[number]>;

const kinds = finishKinds as unknown as readonly FinishKind<AnyFinish>[];

/** The kind of a finish. */
export function finishKindOf(finish: Pick<AnyFinish, 'finish'>): FinishKind<AnyFinish> {
	const found = kinds.find((kind) => kind.finish === finish.finish);
	if (!found) throw new Error(`There is no finish "${finish.finish}".`);
	return found;
}

/** A finish as it is first added; `id` is the caller's. */
export const newFinish = (finish: Finish['finish'], id: string): Finish =>
	({ ...finishKindOf({ finish }).usual, id }) as Finish;

export const anyFinishShape = (): Shape =>
	byTag(
		'finish',
		kinds.map(({ shape }) => shape),
	);
