import { DropHalfIcon } from '@phosphor-icons/react/dist/csr/DropHalf';
import type { ToolKind } from './kind.ts';

export const saturate: ToolKind<'saturate'> = {
	name: 'saturate',
	on: 'soft',
	label: 'Saturate',
	asks: 'Saturate',
	Icon: DropHalfIcon,
	hint: 'More colour, or less where the amount is below 0',
	amount: { least: -1, hint: 'Below 0 takes colour away' },
	stroke: () => 'saturate',
};
