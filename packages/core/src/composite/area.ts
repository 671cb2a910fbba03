import type { AreaTone } from '../color/index.ts';
import { type Block, blurAlong, blurField, blurReach, type Rect } from '../raster/index.ts';

/** Texels beside a region that a change reads. */
export const areaReach = (op: AreaTone): number =>
	op.op === 'smudge' ? Math.ceil(op.length / 2) + 1 : blurReach(op.radius);

/**
 * A change's texels in a rectangle: RGBA8, alpha as it was for what sharpens. `block` is what lies there, RGBA8 of the
 * rectangle grown by `areaReach`. Colours are blurred premultiplied, so that clear texels lend none.
 */
export function areaBlock(op: AreaTone, block: Block, rect: Rect): Uint8Array {
	const { width, height } = block.rect;
	const { data } = block;
	const fields = [0, 1, 2, 3].map((k) => {
		const field = new Float32Array(width * height);
		for (let i = 0; i < field.length; i++) {
			const a = data[i * 4 + 3] as number;
			field[i] = k === 3 ? a : ((data[i * 4 + k] as number) * a) / 255;
		}
		return op.op === 'smudge'
			? blurAlong(field, width, height, op.length, (op.turn * Math.PI) / 180)
			: blurField(field, width, height, op.radius);
	});
	const out = new Uint8Array(rect.width * rect.height * 4);
	const byte = (v: number): number => Math.round(Math.min(255, Math.max(0, v)));
	for (let y = 0; y < rect.height; y++)
		for (let x = 0; x < rect.width; x++) {
			const from = (rect.y - block.rect.y + y) * width + rect.x - block.rect.x + x;
			const to = (y * rect.width + x) * 4;
			const alpha = (fields[3] as Float32Array)[from] as number;
			const own = data[from * 4 + 3] as number;
			for (let k = 0; k < 3; k++) {
				const soft = alpha > 0 ? (255 * ((fields[k] as Float32Array)[from] as number)) / alpha : 0;
				const was = data[from * 4 + k] as number;
				out[to + k] = op.op === 'sharpen' ? byte(own ? was + op.amount * (was - soft) : 0) : byte(soft);
			}
			out[to + 3] = op.op === 'sharpen' ? own : byte(alpha);
		}
	return out;
}
