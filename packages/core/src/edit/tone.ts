import { luma, type Rgb8 } from '../color/index.ts';
import { createToneMaps } from '../composite/index.ts';
import { type Block, contentTiles, grownRect, isEmptyRect, meet, readBlock, writeBlock } from '../raster/index.ts';
import { createRecord, type TileRecord } from '../surface/index.ts';
import { type PointTone, type ToneOp, toneKindOf } from '../tone/index.ts';
import type { EditKind } from './kind.ts';
import { type EditScope, gateOf, selectedRect } from './lay.ts';

export interface ToneEdit {
	readonly do: 'tone';
	readonly tone: ToneOp;
}

const lightness = (rgb: Rgb8): number => Math.round(luma(...rgb));

function toneEdit(op: ToneOp, scope: EditScope): TileRecord {
	const { kernels, surface } = scope;
	const record = createRecord(surface);
	const rect = meet(selectedRect(scope), contentTiles(surface));
	if (isEmptyRect(rect)) return record;
	const gate = gateOf(scope, rect);
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
	const kind = toneKindOf(op);
	if (kind.looks === 'area')
		next = kind.block(op, asColor(readBlock(kernels, surface, grownRect(rect, kind.reach(op)))), rect);
	else {
		const maps = createToneMaps(kernels);
		const map = maps.of(op as PointTone);
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
			const v = lightness([next[i * 4] as number, next[i * 4 + 1] as number, next[i * 4 + 2] as number]);
			out[i] = Math.round((out[i] as number) * (1 - c) + v * c);
			continue;
		}
		const [a0, a1] = [
			out[i * 4 + 3] as number,
			scope.lockAlpha ? (out[i * 4 + 3] as number) : (next[i * 4 + 3] as number),
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

export const tone: EditKind<ToneEdit> = {
	do: 'tone',
	words: ({ tone }, on) => `${toneKindOf(tone).words} on ${on}`,
	apply: (edit, scope) => toneEdit(edit.tone, scope),
};
