import { DropIcon } from '@phosphor-icons/react/dist/csr/Drop';
import type { ToolKind } from './kind.ts';

export const soften: ToolKind<'soften'> = {
	name: 'soften',
	label: 'Soften',
	asks: 'Soften',
	keys: 'S',
	Icon: DropIcon,
	hint: 'Soften what lies there, over seams too',
	strength: ['Blur', 'How far each dab softens; the tip’s size is how wide'],
	stroke: () => 'soften',
};
