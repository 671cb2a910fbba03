import { SelectionIcon } from '@phosphor-icons/react/dist/csr/Selection';
import { SelectBay } from '../bench/SelectBay.tsx';
import type { ToolKind } from './kind.ts';

export const select: ToolKind<'select'> = {
	name: 'select',
	label: 'Select',
	asks: 'Select',
	keys: 'C',
	Icon: SelectionIcon,
	hint: 'Select: every tool keeps to what is selected',
	Bay: SelectBay,
	title: 'Select',
	draws: true,
};
