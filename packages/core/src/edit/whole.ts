import { hardenRecord } from '../pixel/index.ts';
import { contentTiles, isEmptyRect, readBlock, writeBlock } from '../raster/index.ts';
import { createRecord } from '../surface/index.ts';
import type { EditKind } from './kind.ts';

/** Texels that are half there are there or not, from a half on; with `colors` each gets the nearest colour of the palette too. */
export interface WholeEdit {
	readonly do: 'whole';
	readonly colors: boolean;
}

export const wholeTexels: EditKind<WholeEdit> = {
	do: 'whole',
	words: ({ colors }, on) => (colors ? `${on} in colours of the palette` : `Whole texels on ${on}`),
	apply({ colors }, scope) {
		const { kernels, surface } = scope;
		const record = createRecord(surface);
		const rect = contentTiles(surface);
		if (isEmptyRect(rect)) return record;
		writeBlock(kernels, record, readBlock(kernels, surface, rect));
		const all = colors ? scope.colors : { ...scope.colors, nearest: (color: number) => color };
		hardenRecord(kernels, record, all, true);
		return record;
	},
};
