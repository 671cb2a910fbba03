import type { BlendMode } from '../composite/index.ts';

/** Blend modes by the names that OpenRaster registers for them; ours that it has no name for are left out. */
const ops: Partial<Record<BlendMode, string>> = {
	normal: 'svg:src-over',
	multiply: 'svg:multiply',
	screen: 'svg:screen',
	overlay: 'svg:overlay',
	darken: 'svg:darken',
	lighten: 'svg:lighten',
	'color-dodge': 'svg:color-dodge',
	'color-burn': 'svg:color-burn',
	'hard-light': 'svg:hard-light',
	'soft-light': 'svg:soft-light',
	difference: 'svg:difference',
	hue: 'svg:hue',
	saturation: 'svg:saturation',
	color: 'svg:color',
	luminosity: 'svg:luminosity',
	'plus-lighter': 'svg:plus',
};

export const OVER = 'svg:src-over';
/** Keeps what lies below where this is: a mask. */
export const KEEP = 'svg:dst-in';
/** Keeps what lies below where this is not. */
export const CUT = 'svg:dst-out';
/** Laid only where something lies below. */
export const ATOP = 'svg:src-atop';

/** The registered name of a mode, or undefined where there is none. */
export const opOfMode = (mode: BlendMode): string | undefined => ops[mode];

const modes = new Map(Object.entries(ops).map(([mode, op]) => [op, mode as BlendMode]));

/** The mode of a registered name, or undefined where it is no mode of ours. */
export const modeOfOp = (op: string): BlendMode | undefined => modes.get(op);
