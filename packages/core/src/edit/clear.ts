import { contentTiles, isEmptyRect, meet, readBlock, writeBlock } from '../raster/index.ts';
import { createRecord } from '../surface/index.ts';
import type { EditKind } from './kind.ts';
import { gateOf, selectedRect } from './lay.ts';

export interface ClearEdit {
	readonly do: 'clear';
}

export const clear: EditKind<ClearEdit> = {
	do: 'clear',
	words: (_edit, on) => `Clear ${on}`,
	apply(_edit, scope) {
		const { kernels, surface } = scope;
		const rect = meet(selectedRect(scope), contentTiles(surface));
		const record = createRecord(surface);
		if (isEmptyRect(rect)) return record;
		const gate = gateOf(scope, rect);
		const block = readBlock(kernels, surface, rect);
		const step = block.bytes;
		for (let i = 0; i < rect.width * rect.height; i++) {
			const at = i * step + step - 1;
			block.data[at] = gate ? Math.round(((block.data[at] as number) * (255 - (gate[i] as number))) / 255) : 0;
		}
		writeBlock(kernels, record, block);
		return record;
	},
};
