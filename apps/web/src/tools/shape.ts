import { PolygonIcon } from '@phosphor-icons/react/dist/csr/Polygon';
import { ShapeBay, TexelShapeBay } from '../bench/ShapeBays.tsx';
import type { ToolKind } from './kind.ts';

export const shape: ToolKind<'shape'> = {
	name: 'shape',
	label: 'Shape',
	asks: 'Draw shapes',
	keys: 'Shift+F',
	Icon: PolygonIcon,
	hint: 'Draw rectangles, ellipses, polygons, lines',
	Bay: ShapeBay,
	TexelBay: TexelShapeBay,
	draws: true,
};
