import { SelectionBackgroundIcon } from '@phosphor-icons/react/dist/csr/SelectionBackground';
import { OutlineBay } from '../bench/PixelBays.tsx';
import type { ToolKind } from './kind.ts';

export const outline: ToolKind<'outline'> = {
	name: 'outline',
	on: 'pixels',
	label: 'Outline',
	asks: 'Outline and inside of a pixel picture',
	Icon: SelectionBackgroundIcon,
	hint: 'Colour, lighten, darken, add or take the outline, or all within it',
	title: 'Outline and inside',
	Bay: OutlineBay,
};
