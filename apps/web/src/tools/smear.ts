import { HandPointingIcon } from '@phosphor-icons/react/dist/csr/HandPointing';
import type { ToolKind } from './kind.ts';

export const smear: ToolKind<'smear'> = {
	name: 'smear',
	on: 'soft',
	label: 'Smear',
	asks: 'Smear',
	keys: 'Shift+S',
	Icon: HandPointingIcon,
	hint: 'Pull paint along',
	strength: ['Pull', 'How much of the paint stays on the tip and is carried along'],
	stroke: () => 'smear',
};
