import { surfacesOfLayer } from '../layerTree.ts';
import type { Id, Layer } from '../types.ts';
import type { CommandKind } from './kind.ts';
import { needSheet, notTooDeep, withLayers } from './need.ts';

/** Puts a list of layers in the place of the sheet's: what inverses of larger changes do. */
export interface LayersSet {
	readonly do: 'layers.set';
	readonly sheet: Id;
	readonly layers: readonly Layer[];
	readonly words: string;
}

export const layersSet: CommandKind<LayersSet> = {
	do: 'layers.set',
	apply(project, command) {
		const sheet = needSheet(project, command.sheet);
		return {
			project: withLayers(project, sheet, notTooDeep(command.layers)),
			inverse: { do: 'layers.set', sheet: sheet.id, layers: sheet.layers, words: command.words },
			words: command.words,
		};
	},
	surfaces: ({ sheet, layers }) =>
		layers.flatMap(surfacesOfLayer).map(({ id, format }) => ({ id, format, sheet, start: 'empty' })),
	touched: ({ sheet }) => ({ sheet }),
};
