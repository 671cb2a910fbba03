import { byTag, type Shape } from '../../shape/index.ts';
import { bake } from './bake.ts';
import { blur } from './blur.ts';
import { clouds } from './clouds.ts';
import { curvature } from './curvature.ts';
import { drips } from './drips.ts';
import { edges } from './edges.ts';
import { facing } from './facing.ts';
import { grow } from './grow.ts';
import { height } from './height.ts';
import { invert } from './invert.ts';
import type { Doing, ShaperKind, SourceKind } from './kind.ts';
import { levels } from './levels.ts';
import { noise } from './noise.ts';
import { occlusion } from './occlusion.ts';
import { painted } from './painted.ts';
import { part } from './part.ts';
import { picture } from './picture.ts';
import { pieces } from './pieces.ts';
import { scratches } from './scratches.ts';
import { smudge } from './smudge.ts';
import { speckle } from './speckle.ts';
import { streaks } from './streaks.ts';
import { strokes } from './strokes.ts';
import { tap } from './tap.ts';
import { thickness } from './thickness.ts';
import { tone } from './tone.ts';
import { tones } from './tones.ts';
import { warp } from './warp.ts';

/** Steps that bring something in, in the order in which they are offered: a new one is a line here. */
export const sourceKinds = [
	edges,
	curvature,
	occlusion,
	thickness,
	height,
	facing,
	pieces,
	part,
	bake,
	tap,
	tones,
	painted,
	noise,
	clouds,
	speckle,
	scratches,
	drips,
	streaks,
	strokes,
	picture,
	tone,
] as const;
/** Steps that change what there is: a new one is a line here. */
export const shaperKinds = [levels, invert, blur, smudge, warp, grow] as const;

type SourceOf<K> = K extends SourceKind<infer S> ? S : never;
type ShaperOf<K> = K extends ShaperKind<infer S> ? S : never;
export type Source = SourceOf<(typeof sourceKinds)[number]>;
export type Shaper = ShaperOf<(typeof shaperKinds)[number]>;

export type AnyStepKind = SourceKind<Doing> | ShaperKind<Doing>;
export const stepKinds = [...sourceKinds, ...shaperKinds] as unknown as readonly AnyStepKind[];

/** The kind of a step. */
export function stepKindOf(step: Doing): AnyStepKind {
	const found = stepKinds.find((kind) => kind.step === step.step);
	if (!found) throw new Error(`There is no kind of step "${step.step}".`);
	return found;
}

export const stepShape = (): Shape =>
	byTag(
		'step',
		stepKinds.map(({ shape }) => shape),
	);
