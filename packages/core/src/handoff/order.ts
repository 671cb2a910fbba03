import type { Hex } from '../color/index.ts';
import { SHEET_SIDE } from '../document/index.ts';
import { type Channels, fileKindOf, fileKinds } from './file/index.ts';
import { sourceKinds } from './source/index.ts';

/** How textures are written: plain data, kept as a preset for all projects. */
export interface TextureOrder {
	/** What each picture is of, by the kind of source. */
	readonly of: string;
	/** The kind of file. */
	readonly file: string;
	readonly channels: Channels;
	/** 1 to 100; null keeps every texel as it is. */
	readonly quality: number | null;
	/** Colours multiplied by alpha, where there is alpha. */
	readonly premultiplied: boolean;
	/** What lies under clear texels where a file has no alpha. */
	readonly ground: Hex;
	/** Texels that colour goes on beyond what is painted: so many, or 'all' of what is clear. */
	readonly bleed: number | 'all';
	/** Texels of the longer side of each picture that is written; 0 is the sheet's own size. */
	readonly sizes: readonly number[];
	/** The file's name without its ending; see `nameParts`. */
	readonly pattern: string;
	/** Fewer bytes for the same texels, slower. */
	readonly smaller: boolean;
}

export const usualOrder: TextureOrder = {
	of: 'sheet',
	file: 'png',
	channels: 'rgba',
	quality: null,
	premultiplied: false,
	ground: '#808080',
	bleed: 0,
	sizes: [0],
	pattern: '{project}-{sheet}',
	smaller: false,
};

/** Orders that are there from the beginning, by what they are called. */
export const usualOrders: readonly (readonly [name: string, order: TextureOrder])[] = [
	['Texture', usualOrder],
	[
		'Texture without alpha, all filled',
		{ ...usualOrder, channels: 'rgb', bleed: 'all', pattern: '{project}-{sheet}-{size}' },
	],
	['Whole, half and quarter', { ...usualOrder, sizes: [2048, 1024, 512], pattern: '{project}-{sheet}-{size}' }],
	['Small for the web', { ...usualOrder, file: 'webp', quality: 85, sizes: [1024] }],
	['Every layer by itself', { ...usualOrder, of: 'layer', pattern: '{sheet}/{layer}' }],
	['Every bake', { ...usualOrder, of: 'bake', channels: 'rgb', pattern: '{sheet}/{layer}' }],
];

export const MOST_SIDE = SHEET_SIDE.most;
/** More sizes than these are not written at once. */
const MOST_SIZES = 14;
const MOST_BLEED = 256;

const whole = (value: unknown, from: number, to: number): boolean =>
	Number.isInteger(value) && (value as number) >= from && (value as number) <= to;

/** What is wrong with a value that should be an order, with the way out, or null where it is one. */
export function orderProblem(value: unknown): string | null {
	const order = value as TextureOrder;
	if (typeof order !== 'object' || order === null) return 'That is no way of writing textures.';
	if (!sourceKinds.some(({ kind }) => kind === order.of))
		return `Pictures are of ${sourceKinds.map(({ kind }) => kind).join(', ')}; not of "${order.of}".`;
	if (!fileKinds.some(({ kind }) => kind === order.file))
		return `Files are written as ${fileKinds.map(({ kind }) => kind).join(' or ')}; not as "${order.file}".`;
	const { words, channels, lossy } = fileKindOf(order.file);
	if (!channels.includes(order.channels)) return `${words} takes ${channels.join(', ')}; not "${order.channels}".`;
	if (order.quality !== null && !(lossy && whole(order.quality, 1, 100)))
		return lossy
			? 'Quality is 1 to 100, or none to keep every texel.'
			: `${words} keeps every texel: it has no quality.`;
	if (!/^#[0-9a-f]{6}$/.test(order.ground)) return `The ground is a colour as #rrggbb; not "${order.ground}".`;
	if (order.bleed !== 'all' && !whole(order.bleed, 0, MOST_BLEED))
		return `Bleed is 0 to ${MOST_BLEED} texels, or "all"; not "${order.bleed}".`;
	if (!Array.isArray(order.sizes) || order.sizes.length < 1 || order.sizes.length > MOST_SIZES)
		return `Name 1 to ${MOST_SIZES} sizes.`;
	const odd = order.sizes.find((size) => !whole(size, 0, MOST_SIDE));
	if (odd !== undefined) return `Sizes are 1 to ${MOST_SIDE} texels; not "${odd}".`;
	if (typeof order.premultiplied !== 'boolean' || typeof order.smaller !== 'boolean')
		return 'Whether alpha is multiplied in, and whether files are made smaller, is yes or no.';
	return patternProblem(order.pattern) ?? null;
}

/** What a name is made of, and what each stands for. */
export const nameParts = {
	project: 'the project',
	sheet: 'the sheet',
	layer: 'the layer, mask or bake',
	size: 'texels of the longer side',
	width: 'texels across',
	height: 'texels down',
} as const;

/** Why names cannot be made by a pattern, or null where they can. */
export function patternProblem(pattern: unknown): string | null {
	if (typeof pattern !== 'string' || pattern.trim() === '') return 'Give the files a name, such as {project}-{sheet}.';
	if (pattern.length > 200) return 'The name is longer than 200 letters.';
	const strange = [...pattern.matchAll(/\{([^{}]*)\}/g)].find(([, part]) => !(String(part) in nameParts));
	if (strange)
		return `There is no ${strange[0]}. There are: ${Object.keys(nameParts)
			.map((part) => `{${part}}`)
			.join(' ')}.`;
	if (/[\\:*?"<>|]/.test(pattern) || pattern.split('/').some((part) => /^\.*$/.test(part.trim())))
		return 'The name has letters that file systems refuse. A slash makes a folder.';
	return null;
}
