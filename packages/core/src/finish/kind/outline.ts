import { grownRect } from '../../raster/index.ts';
import { among, bool, hex, one, real } from '../../shape/index.ts';
import { type Outline, outlineBlock, outlineReach } from '../outline.ts';
import { type FinishBase, type FinishKind, finishShape } from './kind.ts';

export interface OutlineFinish extends FinishBase, Outline {
	readonly finish: 'outline';
}

const places = { out: 'below', in: 'within', middle: 'over' } as const;

export const outline: FinishKind<OutlineFinish> = {
	finish: 'outline',
	words: 'Outline',
	shape: finishShape({
		finish: one('outline'),
		side: among(['out', 'in', 'middle']),
		width: real(0, 64),
		color: hex,
		hard: bool,
	}),
	usual: {
		finish: 'outline',
		on: true,
		opacity: 1,
		mode: 'normal',
		side: 'out',
		width: 4,
		color: '#2b2d30',
		hard: false,
	},
	place: ({ side }) => places[side],
	texels(finish) {
		const reach = outlineReach(finish);
		return {
			reads: 'shape',
			reach,
			make: (rect, { shape }) => outlineBlock(finish, shape(grownRect(rect, reach)), rect),
		};
	},
};
