import { type Hex, rgbOfHex } from '../color/index.ts';
import { readBlock, writeBlock } from '../raster/index.ts';
import { createRecord } from '../surface/index.ts';
import type { EditKind } from './kind.ts';
import { gateOf } from './lay.ts';
import { whole } from './space.ts';

/** Single texels set, each to its own colour; null takes it away. */
export interface TexelsEdit {
	readonly do: 'texels';
	readonly set: readonly (readonly [x: number, y: number, color: Hex | null])[];
}

export const texels: EditKind<TexelsEdit> = {
	do: 'texels',
	words: ({ set }, on) => `${set.length} ${set.length === 1 ? 'texel' : 'texels'} of ${on}`,
	apply({ set }, scope) {
		const { kernels, surface } = scope;
		const record = createRecord(surface);
		const rect = whole(surface);
		const block = readBlock(kernels, surface, rect);
		const gate = gateOf(scope, rect);
		const changed = new Uint8Array(rect.width * rect.height);
		for (const [x, y, color] of set) {
			const i = y * rect.width + x;
			if (block.bytes !== 4 || !(i in changed) || x >= rect.width || (gate && !gate[i])) continue;
			if (scope.lockAlpha && (color === null || !block.data[i * 4 + 3])) continue;
			changed[i] = 1;
			block.data.set(color === null ? [0, 0, 0, 0] : [...rgbOfHex(color), 255], i * 4);
		}
		writeBlock(kernels, record, block, changed);
		return record;
	},
};
