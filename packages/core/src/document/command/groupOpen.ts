import type { Id } from '../types.ts';
import { CommandError, type CommandKind } from './kind.ts';
import { changeAmong, needParent, needPlace, needSheet, withLayers } from './need.ts';

/** Lets a group's layers out. */
export interface GroupOpen {
	readonly do: 'group.open';
	readonly sheet: Id;
	readonly group: Id;
}

export const groupOpen: CommandKind<GroupOpen> = {
	do: 'group.open',
	apply(project, command) {
		const sheet = needSheet(project, command.sheet);
		const group = needParent(sheet, command.group);
		if (!group) throw new CommandError('That group is not here any more. Nothing was changed.');
		const { parent } = needPlace(sheet, group.id);
		const layers = changeAmong(sheet.layers, parent?.id ?? null, (among) =>
			among.flatMap((each) => (each.id === group.id ? group.layers : [each])),
		);
		const words = `Let out "${group.name}"`;
		return {
			project: withLayers(project, sheet, layers),
			inverse: { do: 'layers.set', sheet: sheet.id, layers: sheet.layers, words },
			words,
		};
	},
	touched: ({ sheet }) => ({ sheet }),
};
