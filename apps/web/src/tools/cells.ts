import { GridFourIcon } from '@phosphor-icons/react/dist/csr/GridFour';
import { assignAt, pressCell } from '../actions/cells.ts';
import { CellsBay } from '../bench/CellsBay.tsx';
import type { ToolKind } from './kind.ts';

export const cells: ToolKind<'cells'> = {
	name: 'cells',
	on: 'grid',
	label: 'Cells',
	asks: 'Cells of a colour grid',
	Icon: GridFourIcon,
	hint: 'Choose a cell on the sheet; click the model to put a part, an island or a face in it',
	title: 'Cells of the colour grid',
	Bay: CellsBay,
	press({ pointing }) {
		if (!pointing) return;
		if (pointing.on === 'sheet') pressCell(pointing.x, pointing.y);
		else assignAt(pointing);
	},
};
