import type { Kernels } from '@eppu/kernels';
import { type Hex, luma, rgbOfHex } from '../color/index.ts';
import { isLaid, type Mixing, type PixelColors } from '../pixel/index.ts';
import type { Bins, SeenTexels } from '../projection/index.ts';
import { type Block, contentTiles, isEmptyRect, type Rect, readBlock, writeBlock } from '../raster/index.ts';
import { createRecord, type Picture, type Surface, type TileRecord } from '../surface/index.ts';
import { type DrawSpace, whole } from './space.ts';

/** Where an edit works: what it changes, and what limits it. */
export interface EditScope {
	readonly kernels: Kernels;
	readonly surface: Surface;
	readonly selection: Surface | undefined;
	readonly lockAlpha: boolean;
	/** The plane that places and shapes of the edit are in. */
	readonly space: DrawSpace;
	/** A8 of a rectangle that a guard lets through; null where there is none. */
	readonly guarded: ((rect: Rect) => Uint8Array) | null;
	/** Whole texels of the palette's colours are held here, and nothing else. */
	readonly strict: boolean;
	/** What tones step along: the palette's colours and ramps. */
	readonly colors: PixelColors;
	/** All layers together. */
	picture(): Picture;
}

/** A sheet of a model as a view shows it, and what an edit changes on it. */
export interface SeenSheet {
	readonly scope: EditScope;
	readonly bins: Bins;
	readonly seen: SeenTexels;
}

/** What a view shows: the face at each of its px, and the place among the sheets of the one that a face lies on. */
export interface SeenModel {
	readonly faces: Int32Array;
	readonly width: number;
	readonly height: number;
	sheetOf(face: number): number;
}

/** What selection and guard let through in a rectangle; null where nothing limits. */
export function gateOf({ kernels, selection, guarded }: EditScope, rect: Rect): Uint8Array | null {
	const selected = selection ? readBlock(kernels, selection, rect).data : null;
	const free = guarded?.(rect) ?? null;
	if (selected && free)
		for (let i = 0; i < selected.length; i++) selected[i] = Math.min(selected[i] as number, free[i] as number);
	return selected ?? free;
}

/** The rectangle that what is selected lies in; the whole surface where nothing is. */
export const selectedRect = ({ surface, selection }: EditScope): Rect =>
	selection ? contentTiles(selection) : whole(surface);

/** Lays colours over texels by a cover of 0..1 (source-over of W3C Compositing 1, straight alpha); a mask takes their tone. */
export function layTexel(
	data: Uint8Array,
	i: number,
	bytes: Block['bytes'],
	r: number,
	g: number,
	b: number,
	cover: number,
	lock: boolean,
): void {
	if (cover <= 0) return;
	if (bytes !== 4) {
		data[i] = Math.round((data[i] as number) * (1 - cover) + luma(r, g, b) * cover);
		return;
	}
	const own = (data[i * 4 + 3] as number) / 255;
	if (lock && own === 0) return;
	const alpha = lock ? own : cover + own * (1 - cover);
	const share = lock ? cover : cover / alpha;
	for (const [k, v] of [r, g, b].entries())
		data[i * 4 + k] = Math.round((data[i * 4 + k] as number) * (1 - share) + v * share);
	data[i * 4 + 3] = Math.round(255 * alpha);
}

/** Lays one colour through a cover, A8 of a rectangle; in a pattern of texels where `mixing` says one. */
export function layCover(
	scope: EditScope,
	rect: Rect,
	cover: Uint8Array,
	color: Hex,
	mixing: Mixing | null = null,
): TileRecord {
	const { kernels, surface, lockAlpha } = scope;
	const record = createRecord(surface);
	if (isEmptyRect(rect)) return record;
	const gate = gateOf(scope, rect);
	const block = readBlock(kernels, surface, rect);
	const own = rgbOfHex(color);
	const between = mixing?.between ? rgbOfHex(mixing.between) : null;
	const changed = new Uint8Array(cover.length);
	for (let i = 0; i < cover.length; i++) {
		const c = ((cover[i] as number) / 255) * (gate ? (gate[i] as number) / 255 : 1);
		if (c <= 0) continue;
		const laid = !mixing || isLaid(mixing, rect.x + (i % rect.width), rect.y + Math.floor(i / rect.width));
		const rgb = laid ? own : between;
		if (!rgb) continue;
		changed[i] = 1;
		layTexel(block.data, i, block.bytes, ...rgb, c, lockAlpha);
	}
	writeBlock(kernels, record, block, changed);
	return record;
}
