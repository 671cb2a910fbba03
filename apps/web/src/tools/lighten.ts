import { SunIcon } from '@phosphor-icons/react/dist/csr/Sun';
import type { ToolKind } from './kind.ts';

export const lighten: ToolKind<'lighten'> = {
	name: 'lighten',
	label: 'Lighten',
	asks: 'Lighten',
	Icon: SunIcon,
	hint: 'Lighten what lies there, hue kept',
	amount: { least: 0, hint: 'How far towards white' },
	stroke: () => 'lighten',
};
