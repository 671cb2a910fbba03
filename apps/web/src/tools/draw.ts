import { PaintBrushIcon } from '@phosphor-icons/react/dist/csr/PaintBrush';
import type { ToolKind } from './kind.ts';

export const draw: ToolKind<'draw'> = {
	name: 'draw',
	label: 'Draw',
	asks: 'Draw',
	keys: 'D',
	Icon: PaintBrushIcon,
	hint: 'Draw with the front pot; Shift makes straight strokes',
	stroke: () => 'draw',
};
