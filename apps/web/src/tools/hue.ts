import { RainbowIcon } from '@phosphor-icons/react/dist/csr/Rainbow';
import type { ToolKind } from './kind.ts';

export const hue: ToolKind<'hue'> = {
	name: 'hue',
	on: 'soft',
	label: 'Hue',
	asks: 'Hue shift',
	Icon: RainbowIcon,
	hint: 'Turn the hue by the amount',
	amount: { least: -1, hint: '1 is half a turn' },
	stroke: () => 'hue',
};
