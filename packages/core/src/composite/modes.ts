/**
 * Blend modes: the sixteen of W3C Compositing and Blending Level 1 under their names there, plus-lighter, and
 * subtract and divide. The order gives the kernels their numbers (assembly/blend.ts).
 */
export const blendModes = [
	'normal',
	'multiply',
	'screen',
	'overlay',
	'darken',
	'lighten',
	'color-dodge',
	'color-burn',
	'hard-light',
	'soft-light',
	'difference',
	'exclusion',
	'hue',
	'saturation',
	'color',
	'luminosity',
	'plus-lighter',
	'subtract',
	'divide',
] as const;

export type BlendMode = (typeof blendModes)[number];

/** A blend mode as it is said on the screen: "Color dodge", "Add" for plus-lighter. */
export const modeWords = (mode: BlendMode): string =>
	mode === 'plus-lighter' ? 'Add' : mode[0]?.toUpperCase() + mode.slice(1).replace('-', ' ');

/** The same by what they do to what lies below, as they are offered for choice. */
export const blendKinds: readonly (readonly [kind: string, modes: readonly BlendMode[]])[] = [
	['', ['normal']],
	['Darker', ['multiply', 'darken', 'color-burn', 'subtract']],
	['Lighter', ['screen', 'lighten', 'color-dodge', 'plus-lighter', 'divide']],
	['More contrast', ['overlay', 'soft-light', 'hard-light']],
	['By difference', ['difference', 'exclusion']],
	['By colour', ['hue', 'saturation', 'color', 'luminosity']],
];

const numbers = new Map<BlendMode, number>(blendModes.map((mode, i) => [mode, i]));

/** The mode's number in the kernels. */
export const modeNumber = (mode: BlendMode): number => numbers.get(mode) as number;
