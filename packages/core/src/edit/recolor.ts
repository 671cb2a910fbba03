import type { Hex } from '../color/index.ts';
import { packedOf } from '../pixel/index.ts';
import { contentTiles, isEmptyRect, meet, readBlock, writeBlock } from '../raster/index.ts';
import { createRecord, type TileRecord } from '../surface/index.ts';
import type { EditKind } from './kind.ts';
import { type EditScope, gateOf, selectedRect } from './lay.ts';

/** Texels of one colour get another, each pair at once: colours may change places. Alpha stays. */
export interface RecolorEdit {
	readonly do: 'recolor';
	readonly pairs: readonly (readonly [from: Hex, to: Hex])[];
}

/** Texels of a surface recoloured, within what is selected. */
export function recolored({ pairs }: Pick<RecolorEdit, 'pairs'>, scope: EditScope): TileRecord {
	const { kernels, surface } = scope;
	const record = createRecord(surface);
	const rect = meet(selectedRect(scope), contentTiles(surface));
	if (isEmptyRect(rect) || surface.format !== 'color') return record;
	const gate = gateOf(scope, rect);
	const block = readBlock(kernels, surface, rect);
	const words = new Uint32Array(block.data.buffer);
	const changed = new Uint8Array(words.length);
	const to = new Map(pairs.map(([from, next]) => [packedOf(from), packedOf(next)]));
	for (let i = 0; i < words.length; i++) {
		const word = words[i] as number;
		if (word >>> 24 === 0 || (gate && (gate[i] as number) < 128)) continue;
		const next = to.get(word & 0xffffff);
		if (next === undefined || next === (word & 0xffffff)) continue;
		words[i] = ((word & 0xff000000) | next) >>> 0;
		changed[i] = 1;
	}
	writeBlock(kernels, record, block, changed);
	return record;
}

export const recolor: EditKind<RecolorEdit> = {
	do: 'recolor',
	words: ({ pairs }, on) => (pairs.length === 1 ? `Replace a colour on ${on}` : `Recolour ${on}`),
	apply: recolored,
};
