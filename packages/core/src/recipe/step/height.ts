import { among, one, real } from '../../shape/index.ts';
import { type Axis, axisChoice, axisNumber, type SourceKind, sourceShape } from './kind.ts';

/** From 0 at `from` to 1 at `to`, in shares of the model's height along the axis. */
export interface Height {
	readonly step: 'height';
	readonly axis: Axis;
	readonly from: number;
	readonly to: number;
	/** Of all of the model, of each part by itself, or of all models together. */
	readonly over?: 'model' | 'part' | 'models';
}

export const height: SourceKind<Height> = {
	step: 'height',
	words: 'Height',
	takes: 'source',
	shape: sourceShape(
		{
			step: one('height'),
			axis: among(['x', 'y', 'z']),
			from: real(-1, 2),
			to: real(-1, 2),
			over: among(['model', 'part', 'models']),
		},
		['over'],
	),
	usual: { step: 'height', axis: 'y', from: 0.5, to: 0, over: 'model' },
	models: ({ over }) => over === 'models',
	dials: [
		{ of: 'from', label: 'From', least: -0.5, most: 1.5 },
		{ of: 'to', label: 'To', least: -0.5, most: 1.5 },
	],
	choices: [
		axisChoice,
		{
			of: 'over',
			label: 'Of',
			options: [
				['model', 'The model'],
				['part', 'Each part'],
				['models', 'All models'],
			],
		},
	],
	field(step, ground) {
		const { surface } = ground;
		if (!surface) return null;
		const axis = axisNumber[step.axis];
		const all = step.over === 'models' ? ground.models(axis) : null;
		const [low, high] = all ?? [surface.low[axis] as number, surface.high[axis] as number];
		const span = step.to - step.from || 1e-4;
		const cells = surface.face.length;
		const field = ground.planes.take(cells);
		if (step.over === 'part') {
			const [to, at] = [field, surface.place[axis]].map((plane) => ground.planes.floats(plane, cells)) as [
				Float32Array,
				Float32Array,
			];
			const spans = new Map<number, readonly [number, number]>();
			for (let i = 0; i < cells; i++) {
				const face = surface.face[i] as number;
				if (face < 0) continue;
				const part = surface.partOf(face);
				const [least, most] = spans.get(part) ?? surface.partSpan(part, axis);
				spans.set(part, [least, most]);
				to[i] = (((at[i] as number) - least) / (most - least || 1) - step.from) / span;
			}
			ground.planes.run.rampCells(surface.cells, field, cells, 1, 0, field);
			return field;
		}
		const by = 1 / ((high - low || 1) * span);
		ground.planes.run.rampCells(surface.cells, surface.place[axis], cells, by, -low * by - step.from / span, field);
		return field;
	},
};
