import { type Hex, type ToneOp, toneNames } from '../color/index.ts';
import {
	type Affine,
	contentTiles,
	isEmptyRect,
	meet,
	pathCoverage,
	pathRect,
	readBlock,
	writeBlock,
} from '../raster/index.ts';
import { outlinePath, type Repeat, repeatedPath, type Shape, shapePath, similarTo } from '../select/index.ts';
import { createRecord, type TileRecord } from '../surface/index.ts';
import { type Gradient, gradientBlock } from '../wash/index.ts';
import { type Ground, gateOf, layCover, layTexel, selectedRect, whole } from './lay.ts';
import { toneEdit } from './tone.ts';
import { transformEdit } from './transform.ts';

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
