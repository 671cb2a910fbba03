import { GradientIcon } from '@phosphor-icons/react/dist/csr/Gradient';
import { GradientBay, TexelGradientBay } from '../bench/ShapeBays.tsx';
import type { ToolKind } from './kind.ts';

export const gradient: ToolKind<'gradient'> = {
	name: 'gradient',
	label: 'Gradient',
	asks: 'Gradient',
	keys: 'G',
	Icon: GradientIcon,
	hint: 'Drag a gradient between the pots, or along the palette',
	Bay: GradientBay,
	TexelBay: TexelGradientBay,
	draws: true,
};
