import { GridFourIcon } from '@phosphor-icons/react/dist/csr/GridFour';
import { assignAt, carryOver, dropInCell, pressCell } from '../actions/cells.ts';
import { CellsBay } from '../bench/CellsBay.tsx';
import { useStudio } from '../studio/store.ts';
import type { ToolKind } from './kind.ts';

export const cells: ToolKind<'cells'> = {
	name: 'cells',
	on: 'grid',
	label: 'Cells',
	asks: 'Cells of a colour grid',
	Icon: GridFourIcon,
	hint: 'Choose a cell on the sheet; click the model to put a part, an island or a face in it, or drag it to a cell from either view',
	title: 'Cells of the colour grid',
	Bay: CellsBay,
	press({ pointing }) {
		if (!pointing) return;
		if (pointing.on === 'sheet') pressCell(pointing.x, pointing.y);
		else assignAt(pointing);
	},
	carry: {
		over: carryOver,
		drop: dropInCell,
		end: () => useStudio.setState({ cellOver: null }),
	},
};
