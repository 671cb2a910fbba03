import type { Id } from '../types.ts';
import { CommandError, type CommandKind } from './kind.ts';
import { needSheet } from './need.ts';

/** Takes a sheet that no model lies on out of the project. */
export interface SheetRemove {
	readonly do: 'sheet.remove';
	readonly sheet: Id;
}

export const sheetRemove: CommandKind<SheetRemove> = {
	do: 'sheet.remove',
	apply(project, { sheet: id }) {
		const sheet = needSheet(project, id);
		if (project.models.some(({ parts }) => parts.some((part) => part.sheet === id)))
			throw new CommandError(`A model lies on "${sheet.name}". Nothing was changed.`);
		return {
			project: { ...project, sheets: project.sheets.filter((each) => each !== sheet) },
			inverse: { do: 'sheet.add', sheet },
			words: `Close "${sheet.name}"`,
		};
	},
	touched: () => 'nothing',
};
