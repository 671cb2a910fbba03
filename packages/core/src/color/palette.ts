import { hex, list, name, type Shape, strict } from '../shape/index.ts';
import type { Hex } from './srgb.ts';

/** Tones of one thing, one after the other: what is shaded goes along them step by step. */
export interface Ramp {
	readonly name: string;
	readonly colors: readonly Hex[];
}

export const paletteShape: Shape = strict(
	{ name, colors: list(hex, 512), ramps: list(strict({ name, colors: list(hex, 64, 1) }), 64) },
	['ramps'],
);

/** Named colours in the order in which they stand under the hand. */
export interface Palette {
	readonly name: string;
	readonly colors: readonly Hex[];
	/** Not there is as none. */
	readonly ramps?: readonly Ramp[];
}

/** The demo world's palette: three rows of twelve, straw to rust, tin to leaf, sky to plum. */
const tin: readonly Hex[] = [
	'#f3e9d2',
	'#e2cf9b',
	'#cda964',
	'#ad783d',
	'#7d5431',
	'#523521',
	'#e8b345',
	'#cd8036',
	'#b85a33',
	'#8d392b',
	'#5f2623',
	'#3b1a1e',
	'#dde0da',
	'#b4bbb9',
	'#8a928f',
	'#636a69',
	'#44494a',
	'#2b2d30',
	'#cbd7a8',
	'#9fb07c',
	'#6f8655',
	'#4b653f',
	'#32482f',
	'#202c22',
	'#c9dde2',
	'#93b6c2',
	'#64899d',
	'#446478',
	'#2d485b',
	'#1f303f',
	'#e8d3da',
	'#c49bb0',
	'#966a87',
	'#684967',
	'#472f4b',
	'#2d1f31',
];

/** Its rows of six, from light to dark, are its ramps. */
export const apiaryPalette: Palette = {
	name: 'Apiary tin',
	colors: tin,
	ramps: ['Straw', 'Rust', 'Tin', 'Leaf', 'Sky', 'Plum'].map((name, i) => ({
		name,
		colors: tin.slice(i * 6, i * 6 + 6),
	})),
};
