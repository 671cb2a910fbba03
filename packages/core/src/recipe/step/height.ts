import { among, one, real } from '../../shape/index.ts';
import { type Axis, axisChoice, axisNumber, type SourceKind, sourceShape } from './kind.ts';

/** From 0 at `from` to 1 at `to`, in shares of the model's height along the axis. */
export interface Height {
	readonly step: 'height';
	readonly axis: Axis;
	readonly from: number;
	readonly to: number;
}

export const height: SourceKind<Height> = {
	step: 'height',
	words: 'Height',
	takes: 'source',
	shape: sourceShape({ step: one('height'), axis: among(['x', 'y', 'z']), from: real(-1, 2), to: real(-1, 2) }),
	usual: { step: 'height', axis: 'y', from: 0.5, to: 0 },
	dials: [
		{ of: 'from', label: 'From', least: -0.5, most: 1.5 },
		{ of: 'to', label: 'To', least: -0.5, most: 1.5 },
	],
	choices: [axisChoice],
	field(step, ground) {
		const { surface } = ground;
		if (!surface) return null;
		const axis = axisNumber[step.axis];
		const [low, high] = [surface.low[axis] as number, surface.high[axis] as number];
		const span = step.to - step.from || 1e-4;
		const cells = surface.face.length;
		const field = ground.planes.take(cells);
		const by = 1 / ((high - low || 1) * span);
		ground.planes.run.rampCells(surface.cells, surface.place[axis], cells, by, -low * by - step.from / span, field);
		return field;
	},
};
