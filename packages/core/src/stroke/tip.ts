import { among, bool, degrees, list, pictureId, real, type Shape, share, strict } from '../shape/index.ts';
import type { Reading } from './reading.ts';

/**
 * The dials that a rule of the pen may move, in their words: each that can differ from dab to dab. The wet edge and the
 * steadying are of a stroke as a whole.
 */
export const ruledDials = [
	['size', 'Size'],
	['strength', 'Strength'],
	['edge', 'Edge'],
	['spacing', 'Spacing'],
	['roundness', 'Roundness'],
	['angle', 'Angle'],
	['scatter', 'Scatter'],
	['chance-size', 'Chance of size'],
	['chance-angle', 'Chance of angle'],
	['chance-stretch', 'Chance of stretch'],
	['chance-strength', 'Chance of strength'],
	['hue', 'Chance of hue'],
	['lightness', 'Chance of lightness'],
	['saturation', 'Chance of saturation'],
] as const;
export type Ruled = (typeof ruledDials)[number][0];

/** How the pen rules a dial: at the curve's foot the dial has 1 - amount of its value, at its head all of it. */
export interface Rule {
	readonly by: Reading;
	readonly of: Ruled;
	/** 0..1 */
	readonly amount: number;
	/** Heights 0..1 over the readings 0, ¼, ½, ¾, 1, joined smoothly. */
	readonly curve: readonly number[];
}

/** How far chance moves each dab, 0..1 each. */
export interface Jitter {
	readonly size: number;
	readonly angle: number;
	readonly stretch: number;
	readonly strength: number;
	/** Of the tip's width. */
	readonly scatter: number;
	readonly hue: number;
	readonly lightness: number;
	readonly saturation: number;
}

/** What a stroke is made with. */
export interface Tip {
	/** 'round', 'pixel', a shipped tip's name, or the id of a picture of the artist's own. */
	readonly shape: string;
	/** Diameter: texels on a sheet, px on the model. 1..1000. */
	readonly size: number;
	/** 0..1 */
	readonly strength: number;
	/** 0 soft to the middle .. 1 hard. */
	readonly edge: number;
	/** Distance between dabs as a share of the diameter, 0.02..4. */
	readonly spacing: number;
	/** Short side over long side, 0.05..1. */
	readonly roundness: number;
	/** Degrees, clockwise. */
	readonly angle: number;
	/** What turns the tip further: nothing, the stroke's own direction, the pen's lean. */
	readonly turn: 'fixed' | 'stroke' | 'pen';
	/** Dabs add up; else the stroke is capped at its strength however often it crosses itself. */
	readonly buildUp: boolean;
	/** How much paler paint is within the stroke than at its rim, 0..1; the edge's softness is where the rim lies. */
	readonly wet: number;
	/** How far the tip trails the pen, 0..1: a steadier line. */
	readonly steady: number;
	readonly jitter: Jitter;
	readonly rules: readonly Rule[];
}

export const tipShape: Shape = strict({
	shape: pictureId,
	size: real(1, 1000),
	strength: share,
	edge: share,
	spacing: real(0.02, 4),
	roundness: real(0.05, 1),
	angle: degrees,
	turn: among(['fixed', 'stroke', 'pen']),
	buildUp: bool,
	wet: share,
	steady: share,
	jitter: strict({
		size: share,
		angle: share,
		stretch: share,
		strength: share,
		scatter: share,
		hue: share,
		lightness: share,
		saturation: share,
	}),
	rules: list(
		strict({
			by: among(['pressure', 'tilt', 'speed']),
			of: among(ruledDials.map(([of]) => of)),
			amount: share,
			curve: list(share, 9, 2),
		}),
		16,
	),
});

export const noJitter: Jitter = {
	size: 0,
	angle: 0,
	stretch: 0,
	strength: 0,
	scatter: 0,
	hue: 0,
	lightness: 0,
	saturation: 0,
};

export const straightCurve: readonly number[] = [0, 0.25, 0.5, 0.75, 1];

export const defaultTip: Tip = {
	shape: 'round',
	size: 46,
	strength: 0.8,
	edge: 0.6,
	spacing: 0.1,
	roundness: 1,
	angle: 0,
	turn: 'fixed',
	buildUp: false,
	wet: 0,
	steady: 0,
	jitter: noJitter,
	rules: [
		{ by: 'pressure', of: 'size', amount: 0.6, curve: straightCurve },
		{ by: 'pressure', of: 'strength', amount: 0.4, curve: straightCurve },
	],
};

/** A tip that no pen rules. */
export const unruled = (tip: Tip): Tip => ({ ...tip, rules: [] });
