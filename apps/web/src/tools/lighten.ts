import { SunIcon } from '@phosphor-icons/react/dist/csr/Sun';
import type { ToolKind } from './kind.ts';

export const lighten: ToolKind<'lighten'> = {
	name: 'lighten',
	label: 'Lighten',
	asks: 'Lighten',
	Icon: SunIcon,
	hint: 'Lighten what lies there, hue kept',
	stroke: () => 'lighten',
};
