import type { Kernels } from '@eppu/kernels';
import { type Hex, isAreaTone, type Rgb8, rgbOfHex, type ToneOp, toneNames } from '../color/index.ts';
import { areaBlock, areaReach, createToneMaps } from '../composite/index.ts';
import {
	type Affine,
	around,
	type Block,
	contentTiles,
	grownRect,
	inverseOf,
	isEmptyRect,
	mappedPath,
	meet,
	pathCoverage,
	pathRect,
	type Rect,
	readBlock,
	resampled,
	writeBlock,
} from '../raster/index.ts';
import { outlinePath, type Repeat, repeatedPath, type Shape, shapePath, similarTo } from '../select/index.ts';
import { createRecord, type Picture, type Surface, type TileRecord } from '../surface/index.ts';
import { type Gradient, gradientBlock } from '../wash/index.ts';

/** A change of the pixels of a paint layer or a mask, at once; a selection limits each of them. */
export type Edit =
	/** A drawn shape: filled, or as an outline so many texels thick. */
	| {
			readonly do: 'shape';
			readonly shape: Shape;
			readonly outline: number | null;
			readonly repeat: Repeat | null;
			readonly color: Hex;
	  }
	| { readonly do: 'gradient'; readonly gradient: Gradient }
	| { readonly do: 'tone'; readonly tone: ToneOp }
	| { readonly do: 'clear' }
	| { readonly do: 'fill'; readonly color: Hex }
	/** The joined texels like the one at a place, of all layers together; `reach` 0..255 is how far they may differ. */
	| { readonly do: 'flood'; readonly color: Hex; readonly x: number; readonly y: number; readonly reach: number }
	| { readonly do: 'transform'; readonly map: Affine; readonly smooth: boolean };

/** Where an edit works: what it changes, and what limits it. */
export interface Ground {
	readonly kernels: Kernels;
	readonly surface: Surface;
	readonly selection: Surface | undefined;
	readonly lockAlpha: boolean;
	/** A8 of a rectangle that a guard lets through; null where there is none. */
	readonly guarded: ((rect: Rect) => Uint8Array) | null;
	/** All layers together. */
	picture(): Picture;
}

const whole = ({ width, height }: Surface): Rect => ({ x: 0, y: 0, width, height });

/** What selection and guard let through in a rectangle; null where nothing limits. */
function gateOf({ kernels, selection, guarded }: Ground, rect: Rect): Uint8Array | null {
	const selected = selection ? readBlock(kernels, selection, rect).data : null;
	const free = guarded?.(rect) ?? null;
	if (selected && free)
		for (let i = 0; i < selected.length; i++) selected[i] = Math.min(selected[i] as number, free[i] as number);
	return selected ?? free;
}

/** The rectangle that what is selected lies in; the whole surface where nothing is. */
const selectedRect = ({ surface, selection }: Ground): Rect => (selection ? contentTiles(selection) : whole(surface));

const tone = ([r, g, b]: Rgb8): number => Math.round(0.3 * r + 0.59 * g + 0.11 * b);

/** Lays colours over texels by a cover of 0..1 (source-over of W3C Compositing 1, straight alpha); a mask takes their tone. */
function layTexel(
	data: Uint8Array,
	i: number,
	bytes: 1 | 4,
	r: number,
	g: number,
	b: number,
	cover: number,
	lock: boolean,
): void {
	if (cover <= 0) return;
	if (bytes === 1) {
		data[i] = Math.round((data[i] as number) * (1 - cover) + (0.3 * r + 0.59 * g + 0.11 * b) * cover);
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

/** Lays one colour through a cover, A8 of a rectangle. */
function layCover(ground: Ground, rect: Rect, cover: Uint8Array, color: Hex): TileRecord {
	const { kernels, surface, lockAlpha } = ground;
	const record = createRecord(surface);
	if (isEmptyRect(rect)) return record;
	const gate = gateOf(ground, rect);
	const block = readBlock(kernels, surface, rect);
	const [r, g, b] = rgbOfHex(color);
	for (let i = 0; i < cover.length; i++) {
		const c = ((cover[i] as number) / 255) * (gate ? (gate[i] as number) / 255 : 1);
		layTexel(block.data, i, block.bytes, r, g, b, c, lockAlpha);
	}
	writeBlock(kernels, record, block);
	return record;
}

/** Applies an edit; the record is its undo step. Throws RangeError where a map is flat. */
export function applyEdit(edit: Edit, ground: Ground): TileRecord {
	const { kernels, surface } = ground;
	switch (edit.do) {
		case 'shape': {
			const own = edit.outline === null ? shapePath(edit.shape) : outlinePath(edit.shape, edit.outline);
			const path = repeatedPath(own, edit.repeat);
			const rect = meet(pathRect(path), whole(surface));
			return layCover(ground, rect, pathCoverage(path, rect), edit.color);
		}
		case 'fill': {
			const rect = selectedRect(ground);
			return layCover(ground, rect, new Uint8Array(rect.width * rect.height).fill(255), edit.color);
		}
		case 'flood': {
			const tone = similarTo(ground.picture(), edit.x, edit.y, edit.reach, true);
			return layCover(ground, whole(surface), tone, edit.color);
		}
		case 'gradient': {
			const rect = selectedRect(ground);
			const record = createRecord(surface);
			if (isEmptyRect(rect)) return record;
			const ink = gradientBlock(edit.gradient, rect);
			const gate = gateOf(ground, rect);
			const block = readBlock(kernels, surface, rect);
			for (let i = 0; i < rect.width * rect.height; i++) {
				const c = ((ink[i * 4 + 3] as number) / 255) * (gate ? (gate[i] as number) / 255 : 1);
				layTexel(
					block.data,
					i,
					block.bytes,
					ink[i * 4] as number,
					ink[i * 4 + 1] as number,
					ink[i * 4 + 2] as number,
					c,
					ground.lockAlpha,
				);
			}
			writeBlock(kernels, record, block);
			return record;
		}
		case 'clear': {
			const rect = meet(selectedRect(ground), contentTiles(surface));
			const record = createRecord(surface);
			if (isEmptyRect(rect)) return record;
			const gate = gateOf(ground, rect);
			const block = readBlock(kernels, surface, rect);
			const step = block.bytes;
			for (let i = 0; i < rect.width * rect.height; i++) {
				const at = i * step + step - 1;
				block.data[at] = gate ? Math.round(((block.data[at] as number) * (255 - (gate[i] as number))) / 255) : 0;
			}
			writeBlock(kernels, record, block);
			return record;
		}
		case 'tone':
			return toneEdit(edit.tone, ground);
		case 'transform':
			return transformEdit(edit.map, edit.smooth, ground);
	}
}

function toneEdit(op: ToneOp, ground: Ground): TileRecord {
	const { kernels, surface } = ground;
	const record = createRecord(surface);
	const rect = meet(selectedRect(ground), contentTiles(surface));
	if (isEmptyRect(rect)) return record;
	const gate = gateOf(ground, rect);
	const was = readBlock(kernels, surface, rect);
	const grey = was.bytes === 1;
	const asColor = (block: Block): Block =>
		grey
			? {
					...block,
					bytes: 4,
					data: Uint8Array.from({ length: block.data.length * 4 }, (_, i) =>
						i % 4 === 3 ? 255 : (block.data[i >> 2] as number),
					),
				}
			: block;
	let next: Uint8Array;
	if (isAreaTone(op)) next = areaBlock(op, asColor(readBlock(kernels, surface, grownRect(rect, areaReach(op)))), rect);
	else {
		const maps = createToneMaps(kernels);
		const map = maps.of(op);
		const data = asColor(was).data;
		const at = kernels.heap.alloc(data.length);
		kernels.heap.u8.set(data, at);
		const count = data.length / 4;
		if (map.kind === 2) kernels.run.mapColors(at, map.at, at, count);
		else kernels.run.mapTable(at, map.at, at, count, map.kind as 0 | 1);
		next = kernels.heap.u8.slice(at, at + data.length);
		kernels.heap.free(at, data.length);
		maps.drop();
	}
	const out = was.data;
	for (let i = 0; i < rect.width * rect.height; i++) {
		const c = gate ? (gate[i] as number) / 255 : 1;
		if (c === 0) continue;
		if (grey) {
			const v = tone([next[i * 4] as number, next[i * 4 + 1] as number, next[i * 4 + 2] as number]);
			out[i] = Math.round((out[i] as number) * (1 - c) + v * c);
			continue;
		}
		const [a0, a1] = [
			out[i * 4 + 3] as number,
			ground.lockAlpha ? (out[i * 4 + 3] as number) : (next[i * 4 + 3] as number),
		];
		const alpha = a0 * (1 - c) + a1 * c;
		// Between two texels of different alpha colours are weighed by it.
		for (let k = 0; k < 3; k++) {
			const [w0, w1] = [(out[i * 4 + k] as number) * a0 * (1 - c), (next[i * 4 + k] as number) * a1 * c];
			out[i * 4 + k] = alpha > 0 ? Math.round((w0 + w1) / alpha) : 0;
		}
		out[i * 4 + 3] = Math.round(alpha);
	}
	writeBlock(kernels, record, was);
	return record;
}

/** Where a rectangle lands under a map. */
const mappedRect = ({ x, y, width, height }: Rect, map: Affine): Rect =>
	pathRect(mappedPath([Float64Array.from([x, y, x + width, y, x + width, y + height, x, y + height])], map));

/** What is selected, lifted off, mapped and laid over what stays. */
function transformEdit(map: Affine, smooth: boolean, ground: Ground): TileRecord {
	const { kernels, surface } = ground;
	const back = inverseOf(map);
	if (!back) throw new RangeError('That would press what is moved flat, to nothing. Scale it to at least a texel.');
	const record = createRecord(surface);
	const from = meet(selectedRect(ground), contentTiles(surface));
	if (isEmptyRect(from)) return record;
	const lifted = readBlock(kernels, surface, from);
	const gate = gateOf(ground, from);
	const step = lifted.bytes;
	if (gate)
		for (let i = 0; i < from.width * from.height; i++) {
			const at = i * step + step - 1;
			lifted.data[at] = Math.round(((lifted.data[at] as number) * (gate[i] as number)) / 255);
		}
	const to = meet(grownRect(mappedRect(from, map), 1), whole(surface));
	const box = isEmptyRect(to) ? from : around(from, to);
	const block = readBlock(kernels, surface, box);
	for (let y = 0; y < from.height; y++)
		for (let x = 0; x < from.width; x++) {
			const at = ((from.y - box.y + y) * box.width + from.x - box.x + x) * step + step - 1;
			const stays = gate ? 255 - (gate[y * from.width + x] as number) : 0;
			block.data[at] = Math.round(((block.data[at] as number) * stays) / 255);
		}
	if (!isEmptyRect(to)) {
		const moved = resampled(lifted, to, back, smooth);
		for (let y = 0; y < to.height; y++)
			for (let x = 0; x < to.width; x++) {
				const i = y * to.width + x;
				const at = (to.y - box.y + y) * box.width + to.x - box.x + x;
				if (step === 1) block.data[at] = Math.max(block.data[at] as number, moved[i] as number);
				else
					layTexel(
						block.data,
						at,
						4,
						moved[i * 4] as number,
						moved[i * 4 + 1] as number,
						moved[i * 4 + 2] as number,
						(moved[i * 4 + 3] as number) / 255,
						false,
					);
			}
	}
	writeBlock(kernels, record, block);
	return record;
}

/** An edit as the history names it. */
export function editWords(edit: Edit, on: string): string {
	switch (edit.do) {
		case 'shape': {
			const shape = edit.shape.kind;
			return `${shape[0]?.toUpperCase()}${shape.slice(1)} on ${on}`;
		}
		case 'gradient':
			return `Gradient on ${on}`;
		case 'tone':
			return `${toneNames[edit.tone.op]} on ${on}`;
		case 'clear':
			return `Clear ${on}`;
		case 'fill':
		case 'flood':
			return `Fill ${on}`;
		case 'transform':
			return `Transform ${on}`;
	}
}
