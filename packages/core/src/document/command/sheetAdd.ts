import { surfacesOfSheet } from '../layerTree.ts';
import { MOST_SHEETS, type Sheet } from '../types.ts';
import { CommandError, type CommandKind } from './kind.ts';
import type { SheetRemove } from './sheetRemove.ts';

/** A sheet that no model lies on, after all others; its surfaces were made beside the document. */
export interface SheetAdd {
	readonly do: 'sheet.add';
	readonly sheet: Sheet;
}

export const sheetAdd: CommandKind<SheetAdd> = {
	do: 'sheet.add',
	apply(project, { sheet }) {
		if (project.sheets.length >= MOST_SHEETS)
			throw new CommandError(`A project has up to ${MOST_SHEETS} sheets. Nothing was changed.`);
		return {
			project: { ...project, sheets: [...project.sheets, sheet] },
			inverse: { do: 'sheet.remove', sheet: sheet.id } satisfies SheetRemove as SheetRemove,
			words: `Open "${sheet.name}"`,
		};
	},
	surfaces: ({ sheet }) =>
		surfacesOfSheet(sheet).map(({ id, format }) => ({ id, format, sheet: null, start: 'empty' })),
	touched: ({ sheet }) => ({ sheet: sheet.id }),
};
