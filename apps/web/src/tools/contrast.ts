import { CircleHalfIcon } from '@phosphor-icons/react/dist/csr/CircleHalf';
import type { ToolKind } from './kind.ts';

export const contrast: ToolKind<'contrast'> = {
	name: 'contrast',
	on: 'soft',
	label: 'Contrast',
	asks: 'Contrast',
	Icon: CircleHalfIcon,
	hint: 'More contrast, or less where the amount is below 0',
	amount: { least: -1, hint: 'Below 0 takes contrast away' },
	stroke: () => 'contrast',
};
