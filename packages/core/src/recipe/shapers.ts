import { blurAlong, blurField, blurReach, cloudsAt, fieldAt, grownField } from '../raster/index.ts';
import { eachCell, type Ground } from './ground.ts';
import type { Shaper } from './recipe.ts';

const clamp = (v: number): number => (v < 0 ? 0 : v > 1 ? 1 : v);

/** Texels that a shaper reads beside a cell. */
export function shaperReach(shaper: Shaper): number {
	switch (shaper.step) {
		case 'blur':
			return blurReach(shaper.radius);
		case 'smudge':
			return Math.ceil(shaper.length / 2) + 1;
		case 'warp':
			return Math.ceil(Math.abs(shaper.by)) + 3;
		case 'grow':
			return Math.ceil(Math.abs(shaper.by)) + 2;
		default:
			return 0;
	}
}

/** Clouds of `size` texels on the model's surface, so that they run on over seams; on the sheet where there is none. */
function cloudsOf(ground: Ground, size: number, seed: number): Float32Array {
	const out = new Float32Array(ground.width * ground.height);
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

/** A field changed by a shaper; the field given may be used up. */
export function shapedField(shaper: Shaper, field: Float32Array, ground: Ground): Float32Array {
	const { width, height, scale } = ground;
	switch (shaper.step) {
		case 'levels': {
			const range = shaper.white - shaper.black;
			const power = 1 / Math.max(0.05, shaper.gamma);
			for (let i = 0; i < field.length; i++) {
				const v = clamp(((field[i] as number) - shaper.black) / (Math.abs(range) < 0.004 ? 0.004 : range));
				field[i] = power === 1 ? v : v ** power;
			}
			return field;
		}
		case 'invert':
			for (let i = 0; i < field.length; i++) field[i] = 1 - (field[i] as number);
			return field;
		case 'blur':
			return blurField(field, width, height, shaper.radius / scale);
		case 'smudge':
			return blurAlong(field, width, height, shaper.length / scale, (shaper.turn * Math.PI) / 180);
		case 'warp': {
			const out = new Float32Array(field.length);
			const clouds = cloudsOf(ground, Math.max(1, shaper.size), shaper.seed);
			// A slope is a tone's change over half a cloud's size; where islands meet by chance it is no slope.
			const by = (shaper.by * shaper.size) / (4 * scale * scale);
			const most = Math.abs(shaper.by) / scale;
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
		}
		case 'grow':
			return grownField(field, width, height, shaper.by / scale);
	}
}
