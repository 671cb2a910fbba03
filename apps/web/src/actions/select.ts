import type { SelectionChange } from '@eppu/core/select';
import { tell } from '../studio/line.ts';
import { activeSheet, useStudio } from '../studio/store.ts';
import type { AppCommand } from './command.ts';
import { setTool } from './tools.ts';

const get = useStudio.getState;
const set = useStudio.setState;

/** What there is more of than the shape of one sheet: a selection made on the model lies on several. */
const onAll: readonly SelectionChange['to'][] = ['none', 'grown', 'soft', 'border'];

/** Changes what is selected: all or the inverse of the active sheet, else whatever is selected on any. */
export function changeSelection(change: SelectionChange): void {
	const sheet = activeSheet(get());
	const also = onAll.includes(change.to) ? [...get().selections.keys()] : [];
	if (sheet) tell({ say: 'selection', sheet: sheet.id, change, also });
}

export const selectCommands: readonly AppCommand[] = [
	{ id: 'select-all', label: 'Select all', keys: 'Ctrl+A', run: () => changeSelection({ to: 'all' }) },
	{ id: 'select-none', label: 'Select nothing', keys: 'Shift+Ctrl+A', run: () => changeSelection({ to: 'none' }) },
	{
		id: 'select-inverse',
		label: 'Invert the selection',
		keys: 'Shift+Ctrl+I',
		run: () => changeSelection({ to: 'inverse' }),
	},
	...(['rectangle', 'ellipse', 'polygon', 'freehand', 'cling', 'similar', 'island', 'part', 'face'] as const).map(
		(way) => ({
			id: `select-${way}`,
			label: `Select by ${way === 'cling' ? 'clinging to edges' : way === 'similar' ? 'similar colour' : way}`,
			run: () => {
				setTool('select');
				set({ selecting: { ...get().selecting, way } });
			},
		}),
	),
];
