import { eachLayer, layerOf, sheetOf, surfacesOfLayer } from '../layerTree.ts';
import type { Id, Layer } from '../types.ts';
import { CommandError, type CommandKind } from './kind.ts';
import { changeAmong, needParent, needSheet, notTooDeep, withLayers } from './need.ts';

/** Into a group, or the sheet itself where `parent` is left out; as a copy of another layer of the sheet where one is named. */
export interface LayerAdd {
	readonly do: 'layer.add';
	readonly sheet: Id;
	readonly layer: Layer;
	readonly at: number;
	readonly parent?: Id | null;
	readonly copyOf?: Id;
}

export const layerAdd: CommandKind<LayerAdd> = {
	do: 'layer.add',
	apply(project, command) {
		const sheet = needSheet(project, command.sheet);
		for (const each of eachLayer([command.layer]))
			if (layerOf(sheet, each.id)) throw new CommandError('That layer is on the sheet already. Nothing was changed.');
		const parent = needParent(sheet, command.parent);
		const layers = changeAmong(sheet.layers, parent?.id ?? null, (among) => {
			const at = Math.max(0, Math.min(among.length, command.at));
			return [...among.slice(0, at), command.layer, ...among.slice(at)];
		});
		return {
			project: withLayers(project, sheet, notTooDeep(layers)),
			inverse: { do: 'layer.remove', sheet: sheet.id, layer: command.layer.id },
			words: `${command.copyOf ? 'Copy' : 'Add'} "${command.layer.name}"`,
		};
	},
	surfaces({ sheet, layer, copyOf }, project) {
		const from = project && layerOf(sheetOf(project, sheet), copyOf);
		const theirs = from ? surfacesOfLayer(from) : [];
		return surfacesOfLayer(layer).map(({ id, format }, i) => ({
			id,
			format,
			sheet,
			start: theirs[i]?.format === format ? { copyOf: theirs[i].id } : 'empty',
		}));
	},
	touched: ({ sheet, layer }) => ({ sheet, layer: layer.id }),
};
