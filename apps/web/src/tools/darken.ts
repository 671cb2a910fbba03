import { MoonIcon } from '@phosphor-icons/react/dist/csr/Moon';
import type { ToolKind } from './kind.ts';

export const darken: ToolKind<'darken'> = {
	name: 'darken',
	label: 'Darken',
	asks: 'Darken',
	Icon: MoonIcon,
	hint: 'Darken what lies there, hue kept',
	amount: { least: 0, hint: 'How far towards black' },
	stroke: () => 'darken',
};
