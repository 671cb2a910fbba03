import type { SurfaceId } from '../../surface/index.ts';
import type { Id } from '../types.ts';
import type { CommandKind } from './kind.ts';
import { needSheet } from './need.ts';

/** Null selects nothing, and so limits nothing. */
export interface SelectionSet {
	readonly do: 'selection.set';
	readonly sheet: Id;
	readonly selection: SurfaceId | null;
	readonly words: string;
}

export const selectionSet: CommandKind<SelectionSet> = {
	do: 'selection.set',
	apply(project, { sheet: id, selection, words }) {
		const sheet = needSheet(project, id);
		return {
			project: {
				...project,
				sheets: project.sheets.map((each) => (each === sheet ? { ...each, selection } : each)),
			},
			inverse: { do: 'selection.set', sheet: id, selection: sheet.selection ?? null, words },
			words,
		};
	},
	surfaces: ({ sheet, selection }) => (selection ? [{ id: selection, format: 'mask', sheet, start: 'empty' }] : []),
	touched: () => 'nothing',
};
