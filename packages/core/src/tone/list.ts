import { byTag, type Shape } from '../shape/index.ts';
import type { AnyTone, AreaKind, PointKind, ToneKind } from './kind.ts';
import type { ToneMap } from './map.ts';
import { balance } from './op/balance.ts';
import { blur } from './op/blur.ts';
import { contrast } from './op/contrast.ts';
import { curves } from './op/curves.ts';
import { desaturate } from './op/desaturate.ts';
import { gradient } from './op/gradient.ts';
import { levels } from './op/levels.ts';
import { oklch } from './op/oklch.ts';
import { posterize } from './op/posterize.ts';
import { pull } from './op/pull.ts';
import { sharpen } from './op/sharpen.ts';
import { smudge } from './op/smudge.ts';

/** Changes of tones that look at each texel alone, in the order in which they are offered: a new one is a line here. */
export const pointKinds = [levels, curves, contrast, oklch, balance, gradient, posterize, desaturate, pull] as const;
/** Changes that look around each texel: a new one is a line here. */
export const areaKinds = [blur, smudge, sharpen] as const;

type PointOf<K> = K extends PointKind<infer T> ? T : never;
type AreaOf<K> = K extends AreaKind<infer T> ? T : never;
export type PointTone = PointOf<(typeof pointKinds)[number]>;
export type AreaTone = AreaOf<(typeof areaKinds)[number]>;
/** A change of tones and colours, the same for adjust layers and for what is done once. */
export type ToneOp = PointTone | AreaTone;

export const toneKinds = [...pointKinds, ...areaKinds] as unknown as readonly ToneKind<AnyTone>[];

/** The kind of a change of tones. */
export function toneKindOf(tone: AnyTone): ToneKind<AnyTone> {
	const found = toneKinds.find((kind) => kind.op === tone.op);
	if (!found) throw new Error(`There is no change of tones "${tone.op}".`);
	return found;
}

export const toneShape = (): Shape =>
	byTag(
		'op',
		toneKinds.map(({ shape }) => shape),
	);

/** How kernels take a change that looks at each texel alone. Throws where it looks around them. */
export function toneMap(tone: PointTone | AnyTone): ToneMap {
	const kind = toneKindOf(tone);
	if (kind.looks !== 'point') throw new Error(`"${kind.words}" is no map of tones.`);
	return kind.map(tone);
}
