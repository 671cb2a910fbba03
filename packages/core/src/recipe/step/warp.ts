import { among, id, one, real, seed } from '../../shape/index.ts';
import type { Ground } from '../ground.ts';
import type { Field } from '../planes.ts';
import { spread } from '../spread.ts';
import { type ShaperKind, shaperShape } from './kind.ts';

/** Pushed along the slope of clouds. */
export interface Warp {
	readonly step: 'warp';
	readonly by: number;
	readonly size: number;
	readonly seed: number;
	/** Along the slope of clouds, or of a bake of the model. */
	readonly along?: 'clouds' | 'bake';
	readonly bake?: string;
}

/** Clouds of `size` texels on the model's surface, so that they run on over seams; on the sheet where there is none. */
function cloudsOf(ground: Ground, size: number, seed: number): Field {
	const { planes, surface, sheet } = ground;
	// Places are in hundredths of the model, or of the sheet.
	const k = surface ? 1 / (size * surface.perTexel) : Math.max(sheet.width, sheet.height) / (100 * size);
	return spread(ground, 'model', null, (places, count, out) =>
		planes.run.clouds(...places, count, k, k, surface ? k : 1, seed, 2, 0.5, 1, out),
	);
}

export const warp: ShaperKind<Warp> = {
	step: 'warp',
	words: 'Warp by a slope',
	takes: 'shaper',
	shape: shaperShape(
		{ step: one('warp'), by: real(-128, 128), size: real(1, 2048), seed, along: among(['clouds', 'bake']), bake: id },
		['along', 'bake'],
	),
	usual: { step: 'warp', by: 20, size: 24, seed: 1, along: 'clouds', bake: 'none' },
	dials: [
		{
			of: 'size',
			label: 'Size',
			least: 4,
			most: 512,
			unit: ' px',
			ratio: true,
			hint: 'How far a whole slope of tones goes',
		},
		{ of: 'by', label: 'By', least: -128, most: 128, unit: ' px' },
	],
	choices: [
		{
			of: 'along',
			label: 'Along the slope of',
			options: [
				['clouds', 'Clouds'],
				['bake', 'A bake'],
			],
		},
	],
	dear: true,
	reach: ({ by }) => Math.ceil(Math.abs(by)) + 3,
	work(step, field, ground) {
		const { planes, width, height, scale } = ground;
		const baked = step.along === 'bake' ? ground.baked(step.bake ?? '') : null;
		if (step.along === 'bake' && baked === null) return;
		const clouds = baked ?? cloudsOf(ground, Math.max(1, step.size), step.seed);
		// A slope is a tone's change over half a cloud's size; where islands meet by chance it is no slope.
		const by = (step.by * step.size) / (4 * scale * scale);
		const before = planes.take(width * height);
		planes.floats(before, width * height).set(planes.floats(field, width * height));
		planes.run.warpField(before, clouds, width, height, by, Math.abs(step.by) / scale, field);
	},
};
