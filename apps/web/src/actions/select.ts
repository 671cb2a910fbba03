import type { SelectionChange } from '@eppu/core/select';
import { tell } from '../studio/line.ts';
import { activeSheet, useStudio } from '../studio/store.ts';
import type { AppCommand } from './command.ts';
import { setTool } from './tools.ts';

const get = useStudio.getState;
const set = useStudio.setState;

const onSheet = (change: SelectionChange): void => {
	const sheet = activeSheet(get());
	if (sheet) tell({ say: 'selection', sheet: sheet.id, change });
};

export const selectCommands: readonly AppCommand[] = [
	{ id: 'select-all', label: 'Select all', keys: 'Ctrl+A', run: () => onSheet({ to: 'all' }) },
	{ id: 'select-none', label: 'Select nothing', keys: 'Shift+Ctrl+A', run: () => onSheet({ to: 'none' }) },
	{ id: 'select-inverse', label: 'Invert the selection', keys: 'Shift+Ctrl+I', run: () => onSheet({ to: 'inverse' }) },
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
