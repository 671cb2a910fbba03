import { hex, list, name, type Shape, strict } from '../shape/index.ts';
import type { Hex } from './srgb.ts';

export const paletteShape: Shape = strict({ name, colors: list(hex, 512) });

/** Named colours in the order in which they stand under the hand. */
export interface Palette {
	readonly name: string;
	readonly colors: readonly Hex[];
}

/** The demo world's palette: three rows of twelve, straw to rust, tin to leaf, sky to plum. */
export const apiaryPalette: Palette = {
	name: 'Apiary tin',
	colors: [
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
	],
};
