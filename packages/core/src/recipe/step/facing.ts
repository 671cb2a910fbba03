import { among, one, real } from '../../shape/index.ts';
import type { Field } from '../planes.ts';
import { type Axis, axisChoice, axisNumber, type SourceKind, sourceShape } from './kind.ts';

/** How far the surface looks towards a direction: 1 straight towards it, 0 at `spread` degrees from it. */
export interface Facing {
	readonly step: 'facing';
	/** Along an axis, or any way: see `turn` and `rise`. */
	readonly axis: Axis | 'any';
	readonly way: 1 | -1;
	readonly spread: number;
	/** Degrees about the upright from Z towards X, and above the level. */
	readonly turn?: number;
	readonly rise?: number;
}

/** The way that so many degrees about the upright, from Z towards X, and above the level look. */
export function directionOf(turn: number, rise: number): readonly [number, number, number] {
	const [t, r] = [(turn * Math.PI) / 180, (rise * Math.PI) / 180];
	return [Math.sin(t) * Math.cos(r), Math.sin(r), Math.cos(t) * Math.cos(r)];
}

export const facing: SourceKind<Facing> = {
	step: 'facing',
	words: 'Facing',
	takes: 'source',
	shape: sourceShape(
		{
			step: one('facing'),
			axis: among(['x', 'y', 'z', 'any']),
			way: among([1, -1]),
			spread: real(1, 180),
			turn: real(-180, 180),
			rise: real(-90, 90),
		},
		['turn', 'rise'],
	),
	usual: { step: 'facing', axis: 'y', way: 1, spread: 60, turn: 30, rise: 45 },
	dials: [
		{ of: 'spread', label: 'Spread', least: 1, most: 180, unit: '°' },
		{ of: 'turn', label: 'Turn', least: -180, most: 180, unit: '°', when: ['axis', 'any'] },
		{ of: 'rise', label: 'Rise', least: -90, most: 90, unit: '°', when: ['axis', 'any'] },
	],
	choices: [
		{ ...axisChoice, options: [...axisChoice.options, ['any', 'Any']] },
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
		const least = Math.cos((step.spread * Math.PI) / 180);
		const cells = surface.face.length;
		const field = ground.planes.take(cells);
		const over = 1 / (1 - least || 1e-6);
		let along: Field;
		if (step.axis === 'any') {
			const way = directionOf(step.turn ?? 0, step.rise ?? 0);
			along = field;
			const to = ground.planes.floats(field, cells);
			const [x, y, z] = surface.normal.map((at) => ground.planes.floats(at, cells)) as [
				Float32Array,
				Float32Array,
				Float32Array,
			];
			for (let i = 0; i < cells; i++)
				to[i] = (x[i] as number) * way[0] + (y[i] as number) * way[1] + (z[i] as number) * way[2];
		} else along = surface.normal[axisNumber[step.axis]];
		ground.planes.run.rampCells(surface.cells, along, cells, step.way * over, -least * over, field);
		return field;
	},
};
