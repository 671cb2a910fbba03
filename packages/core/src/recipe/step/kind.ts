import {
	among,
	bool,
	type ChoiceOf,
	type DialOf,
	id,
	real,
	type Shape,
	seed,
	share,
	strict,
} from '../../shape/index.ts';
import type { Ground, TapOf } from '../ground.ts';
import type { Field } from '../planes.ts';

/** How a source joins what the steps before it made; the kernels count them in this order. */
export const mixings = ['replace', 'multiply', 'divide', 'screen', 'overlay', 'max', 'min', 'add', 'subtract'] as const;
export type Mixing = (typeof mixings)[number];

export type Axis = 'x' | 'y' | 'z';
export const axisNumber = { x: 0, y: 1, z: 2 } as const;

/** Where a pattern of chance lies: on the model's surface, so that it runs on across seams, or on the flat sheet. */
export type NoiseSpace = 'model' | 'sheet';

export interface Chance {
	readonly space: NoiseSpace;
	/** Size of its features in hundredths of the model (or of the sheet). */
	readonly size: number;
	readonly seed: number;
}

export interface Doing {
	readonly step: string;
}

interface KindBase<S extends Doing> {
	readonly step: S['step'];
	/** As it is called on the screen. */
	readonly words: string;
	readonly shape: Shape;
	/** As it is first added. */
	readonly usual: S;
	readonly dials: readonly DialOf[];
	readonly choices?: readonly ChoiceOf[];
	/** Whether it depends on all models of the project, not only on the sheet's own. */
	readonly models?: (step: S) => boolean;
	/** Whether it depends on what the model's parts are called. */
	readonly names?: boolean;
	/** Takes a hundred times what others take: made of chance. */
	readonly dear?: boolean;
}

/** A step that brings something in. All tones are 0..1, lengths are texels, angles degrees. */
export interface SourceKind<S extends Doing> extends KindBase<S> {
	readonly takes: 'source';
	/** How it joins at first. */
	readonly joins?: Mixing;
	/** Layers that it reads. */
	taps?(step: S): readonly { readonly layer: string; readonly of: TapOf }[];
	/**
	 * One tone, 0..1, for each cell; null where what it reads is not there. Cells where `only` is 0 may be left out: what
	 * is made of chance is dear.
	 */
	field(step: S, ground: Ground, only: Field | null): Field | null;
}

/** A step that changes what there is. */
export interface ShaperKind<S extends Doing> extends KindBase<S> {
	readonly takes: 'shaper';
	/** Texels that it reads beside a cell. */
	reach(step: S): number;
	/** Changes a field in its place. */
	work(step: S, field: Field, ground: Ground): void;
}

const base = { id, on: bool };
export const sourceShape = (own: Readonly<Record<string, Shape>>, optional: readonly string[] = []): Shape =>
	strict({ ...base, mix: among(mixings), amount: share, ...own }, optional);
export const shaperShape = (own: Readonly<Record<string, Shape>>, optional: readonly string[] = []): Shape =>
	strict({ ...base, ...own }, optional);

/** What all patterns of chance have. */
export const chanceShape = { space: among(['model', 'sheet']), size: real(0.05, 400), seed };
export const usualChance = { space: 'model', size: 8, seed: 1 } as const;
export const sizeDial: DialOf = { of: 'size', label: 'Size', least: 0.5, most: 100, unit: '%', ratio: true };
export const axisChoice: ChoiceOf = {
	of: 'axis',
	label: 'Axis',
	options: [
		['x', 'X'],
		['y', 'Y (up)'],
		['z', 'Z'],
	],
};
export const spaceChoice: ChoiceOf = {
	of: 'space',
	label: 'Space',
	options: [
		['model', 'On the model'],
		['sheet', 'On the sheet'],
	],
};
export const unitDial = (of: string, label: string): DialOf => ({ of, label, least: 0, most: 1 });

/** A field of a ground, every cell as `toneOf` says. */
export function fieldBy({ planes, width, height }: Ground, toneOf: (cell: number) => number): Field {
	const field = planes.take(width * height);
	const tones = planes.floats(field, width * height);
	for (let i = 0; i < tones.length; i++) tones[i] = toneOf(i);
	return field;
}
/** A8 of a ground as a field; null stays null. */
export const toneField = (ground: Ground, tone: Uint8Array | null): Field | null =>
	tone && fieldBy(ground, (i) => (tone[i] as number) / 255);
