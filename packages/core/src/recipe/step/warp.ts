import { cloudsAt, fieldAt } from '../../raster/index.ts';
import { one, real, seed } from '../../shape/index.ts';
import { eachCell, type Ground } from '../ground.ts';
import { fieldOf, type ShaperKind, shaperShape } from './kind.ts';

/** Pushed along the slope of clouds. */
export interface Warp {
	readonly step: 'warp';
	readonly by: number;
	readonly size: number;
	readonly seed: number;
}

/** Clouds of `size` texels on the model's surface, so that they run on over seams; on the sheet where there is none. */
function cloudsOf(ground: Ground, size: number, seed: number): Float32Array {
	const out = fieldOf(ground);
	const { surface } = ground;
	const cloud = (x: number, y: number, z: number): number => cloudsAt(x, y, z, seed, 2, 0.5);
	if (surface) {
		const k = 1 / (size * surface.perTexel);
		const { face, place } = surface;
		for (let i = 0; i < out.length; i++)
			if ((face[i] as number) >= 0)
				out[i] = cloud(
					(place[i * 3] as number) * k,
					(place[i * 3 + 1] as number) * k,
					(place[i * 3 + 2] as number) * k,
				);
		return out;
	}
	eachCell(ground, (cell, x, y) => {
		out[cell] = cloud(x / size, y / size, 0.5);
	});
	return out;
}

export const warp: ShaperKind<Warp> = {
	step: 'warp',
	words: 'Warp by clouds',
	takes: 'shaper',
	shape: shaperShape({ step: one('warp'), by: real(-128, 128), size: real(1, 2048), seed }),
	usual: { step: 'warp', by: 20, size: 24, seed: 1 },
	dials: [
		{ of: 'size', label: 'Size', least: 4, most: 512, unit: ' px', ratio: true },
		{ of: 'by', label: 'By', least: -128, most: 128, unit: ' px' },
	],
	dear: true,
	reach: ({ by }) => Math.ceil(Math.abs(by)) + 3,
	shaped(step, field, ground) {
		const { width, height, scale } = ground;
		const out = new Float32Array(field.length);
		const clouds = cloudsOf(ground, Math.max(1, step.size), step.seed);
		// A slope is a tone's change over half a cloud's size; where islands meet by chance it is no slope.
		const by = (step.by * step.size) / (4 * scale * scale);
		const most = Math.abs(step.by) / scale;
		const slope = (a: number, b: number): number => {
			const d = ((clouds[b] as number) - (clouds[a] as number)) * by;
			return d > most ? most : d < -most ? -most : d;
		};
		for (let y = 0, i = 0; y < height; y++)
			for (let x = 0; x < width; x++, i++) {
				const dx = slope(x > 0 ? i - 1 : i, x + 1 < width ? i + 1 : i);
				const dy = slope(y > 0 ? i - width : i, y + 1 < height ? i + width : i);
				out[i] = fieldAt(field, width, height, x + 0.5 + dx, y + 0.5 + dy);
			}
		return out;
	},
};
