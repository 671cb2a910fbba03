import { eachLayer } from '../layerTree.ts';
import type { Id } from '../types.ts';
import { CommandError, type CommandKind } from './kind.ts';
import { changeAmong, needLayer, needParent, needPlace, needSheet, notTooDeep, withLayers } from './need.ts';

/** Within the group that it is in where `parent` is left out; null is the sheet itself. */
export interface LayerMove {
	readonly do: 'layer.move';
	readonly sheet: Id;
	readonly layer: Id;
	readonly to: number;
	readonly parent?: Id | null;
}

export const layerMove: CommandKind<LayerMove> = {
	do: 'layer.move',
	apply(project, command) {
		const sheet = needSheet(project, command.sheet);
		const layer = needLayer(sheet, command.layer);
		const from = needPlace(sheet, layer.id);
		const parent =
			command.parent === undefined ? (from.parent?.id ?? null) : (needParent(sheet, command.parent)?.id ?? null);
		if (parent !== null && [...eachLayer([layer])].some((each) => each.id === parent))
			throw new CommandError(`"${layer.name}" cannot stand within itself. Nothing was changed.`);
		const without = changeAmong(sheet.layers, from.parent?.id ?? null, (among) =>
			among.filter((each) => each.id !== layer.id),
		);
		const layers = changeAmong(without, parent, (among) => {
			const to = Math.max(0, Math.min(among.length, command.to));
			return [...among.slice(0, to), layer, ...among.slice(to)];
		});
		return {
			project: withLayers(project, sheet, notTooDeep(layers)),
			inverse: { do: 'layer.move', sheet: sheet.id, layer: layer.id, to: from.at, parent: from.parent?.id ?? null },
			words: `Move "${layer.name}"`,
		};
	},
	touched: ({ sheet, layer }) => ({ sheet, layer }),
};
