import { blurAlong, blurField, blurReach, cloudsAt, fieldAt, signedDistances } from '../raster/index.ts';
import type { Ground } from './ground.ts';
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
			return Math.ceil(Math.abs(shaper.by)) + 2;
		case 'grow':
			return Math.ceil(Math.abs(shaper.by)) + 2;
		default:
			return 0;
	}
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
			const k = 1 / Math.max(1, shaper.size);
			const clouds = (x: number, y: number): number => cloudsAt(x * k, y * k, 0.5, shaper.seed, 3, 0.5);
			for (let y = 0; y < height; y++)
				for (let x = 0; x < width; x++) {
					const tx = ground.x + (x + 0.5) * scale;
					const ty = ground.y + (y + 0.5) * scale;
					const here = clouds(tx, ty);
					// Slopes of the clouds lie within about ±1 for a step of half their size.
					const step = shaper.size / 2;
					const dx = (clouds(tx + step, ty) - here) * shaper.by;
					const dy = (clouds(tx, ty + step) - here) * shaper.by;
					out[y * width + x] = fieldAt(field, width, height, x + 0.5 + dx / scale, y + 0.5 + dy / scale);
				}
			return out;
		}
		case 'grow': {
			const tone = Uint8Array.from(field, (v) => Math.round(255 * clamp(v)));
			const distance = signedDistances(tone, width, height);
			const by = shaper.by / scale;
			for (let i = 0; i < field.length; i++) field[i] = clamp(0.5 - ((distance[i] as number) - by));
			return field;
		}
	}
}
