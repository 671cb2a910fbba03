import { EraserIcon } from '@phosphor-icons/react/dist/csr/Eraser';
import type { ToolKind } from './kind.ts';

export const wipe: ToolKind<'wipe'> = {
	name: 'wipe',
	label: 'Wipe',
	asks: 'Wipe',
	keys: 'W',
	Icon: EraserIcon,
	hint: 'Wipe paint off the layer',
	stroke: () => 'wipe',
};
