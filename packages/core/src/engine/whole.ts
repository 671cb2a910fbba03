import { isStrict, type Layer, type Sheet } from '../document/index.ts';
import { colorsNamed, hardenRecord } from '../pixel/index.ts';
import type { TileRecord } from '../surface/index.ts';
import { colorsOn } from './indexed.ts';
import type { Workspace } from './workspace.ts';

/**
 * Makes whole texels of the palette's colours, or of those that were `asked` for by name, of what was changed on a layer
 * that holds nothing else.
 */
export function makeWhole(
	{ kernels, project }: Workspace,
	sheet: Sheet,
	layer: Layer | undefined,
	records: readonly TileRecord[],
	asked: unknown,
): void {
	if (!layer || !isStrict(sheet, layer)) return;
	const colors = colorsOn(project, layer, colorsNamed(asked));
	for (const record of records) hardenRecord(kernels, record, colors);
}
