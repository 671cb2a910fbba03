import type { GroupLayer, Id } from '../types.ts';
import { CommandError, type CommandKind } from './kind.ts';
import { changeAmong, needPlace, needSheet, notTooDeep, withLayers } from './need.ts';

/** Gathers neighbours, bottom first, into a new group in the place of the lowest. */
export interface GroupMake {
	readonly do: 'group.make';
	readonly sheet: Id;
	readonly group: GroupLayer;
	readonly layers: readonly Id[];
}

export const groupMake: CommandKind<GroupMake> = {
	do: 'group.make',
	apply(project, command) {
		const sheet = needSheet(project, command.sheet);
		const places = command.layers.map((id) => needPlace(sheet, id));
		const first = places[0];
		if (!first) throw new CommandError('A group needs at least one layer. Nothing was changed.');
		if (places.some((place) => place.parent?.id !== first.parent?.id))
			throw new CommandError('Only layers that stand together make a group. Nothing was changed.');
		const ids = new Set(command.layers);
		const taken = first.among.filter((each) => ids.has(each.id));
		const group = { ...command.group, layers: taken };
		const lowest = Math.min(...places.map((place) => place.at));
		const layers = changeAmong(sheet.layers, first.parent?.id ?? null, (among) =>
			among.flatMap((each, i) => (i === lowest ? [group] : ids.has(each.id) ? [] : [each])),
		);
		const words = `Group "${group.name}"`;
		return {
			project: withLayers(project, sheet, notTooDeep(layers)),
			inverse: { do: 'layers.set', sheet: sheet.id, layers: sheet.layers, words },
			words,
		};
	},
	touched: ({ sheet }) => ({ sheet }),
};
