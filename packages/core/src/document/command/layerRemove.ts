import type { Id } from '../types.ts';
import type { CommandKind } from './kind.ts';
import { changeAmong, needLayer, needPlace, needSheet, withLayers } from './need.ts';

export interface LayerRemove {
	readonly do: 'layer.remove';
	readonly sheet: Id;
	readonly layer: Id;
}

export const layerRemove: CommandKind<LayerRemove> = {
	do: 'layer.remove',
	apply(project, command) {
		const sheet = needSheet(project, command.sheet);
		const layer = needLayer(sheet, command.layer);
		const { parent, at } = needPlace(sheet, layer.id);
		return {
			project: withLayers(
				project,
				sheet,
				changeAmong(sheet.layers, parent?.id ?? null, (among) => among.filter((each) => each.id !== layer.id)),
			),
			inverse: { do: 'layer.add', sheet: sheet.id, layer, at, parent: parent?.id ?? null },
			words: `Delete "${layer.name}"`,
		};
	},
	touched: ({ sheet, layer }) => ({ sheet, layer }),
};
