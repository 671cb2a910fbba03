import type { Id, Sheet } from '../types.ts';
import type { CommandKind } from './kind.ts';
import { needSheet } from './need.ts';

/** Makes a sheet a pixel sheet, or one that is painted softly; what is on it stays as it is. */
export interface SheetChange {
	readonly do: 'sheet.change';
	readonly sheet: Id;
	readonly change: Pick<Sheet, 'pixel'>;
}

export const sheetChange: CommandKind<SheetChange> = {
	do: 'sheet.change',
	apply(project, { sheet: id, change }) {
		const sheet = needSheet(project, id);
		return {
			project: {
				...project,
				sheets: project.sheets.map((each) => (each === sheet ? { ...sheet, ...change } : each)),
			},
			inverse: {
				do: 'sheet.change',
				sheet: id,
				change: { pixel: sheet.pixel ?? false },
			} satisfies SheetChange as SheetChange,
			words: `"${sheet.name}" is ${change.pixel ? 'a pixel sheet' : 'painted softly'}`,
		};
	},
	touched: () => 'nothing',
};
