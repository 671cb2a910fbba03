import { ArrowsOutCardinalIcon } from '@phosphor-icons/react/dist/csr/ArrowsOutCardinal';
import { letteringTo } from '../actions/moving.ts';
import { MoveBay } from '../bench/ShapeBays.tsx';
import type { ToolKind } from './kind.ts';

export const move: ToolKind<'move'> = {
	name: 'move',
	label: 'Move',
	asks: 'Move, scale, turn, flip, skew',
	keys: 'M',
	Icon: ArrowsOutCardinalIcon,
	hint: 'Move, scale, turn, flip, skew the layer or what is selected',
	Bay: MoveBay,
	press({ pointing }) {
		if (pointing) void letteringTo(pointing);
	},
};
