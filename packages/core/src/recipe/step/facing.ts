import { among, one, real } from '../../shape/index.ts';
import { type Axis, axisChoice, axisNumber, type SourceKind, sourceShape } from './kind.ts';

/** How far the surface looks towards a direction: 1 straight towards it, 0 at `spread` degrees from it. */
export interface Facing {
	readonly step: 'facing';
	readonly axis: Axis;
	readonly way: 1 | -1;
	readonly spread: number;
}

export const facing: SourceKind<Facing> = {
	step: 'facing',
	words: 'Facing',
	takes: 'source',
	shape: sourceShape({
		step: one('facing'),
		axis: among(['x', 'y', 'z']),
		way: among([1, -1]),
		spread: real(1, 180),
	}),
	usual: { step: 'facing', axis: 'y', way: 1, spread: 60 },
	dials: [{ of: 'spread', label: 'Spread', least: 1, most: 180, unit: '°' }],
	choices: [
		axisChoice,
		{
			of: 'way',
			label: 'Way',
			options: [
				[1, 'Along it'],
				[-1, 'Against it'],
			],
		},
	],
	field(step, ground) {
		const { surface } = ground;
		if (!surface) return null;
		const axis = axisNumber[step.axis];
		const least = Math.cos((step.spread * Math.PI) / 180);
		const cells = surface.face.length;
		const field = ground.planes.take(cells);
		const over = 1 / (1 - least || 1e-6);
		ground.planes.run.rampCells(surface.cells, surface.normal[axis], cells, step.way * over, -least * over, field);
		return field;
	},
};
