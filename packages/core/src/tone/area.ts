import type { Block, Rect } from '../raster/index.ts';

/**
 * A rectangle of a block softened by `soften`, which blurs one field of the block's size. Colours are blurred
 * premultiplied, so that clear texels lend none; `texel` says what comes of a value: soft, as it was, its alpha before
 * and after.
 */
export function softenedBlock(
	block: Block,
	rect: Rect,
	soften: (field: Float32Array, width: number, height: number) => Float32Array,
	texel: (soft: number, was: number, own: number) => number,
	keepAlpha: boolean,
): Uint8Array {
	const { width, height } = block.rect;
	const { data } = block;
	const fields = [0, 1, 2, 3].map((k) => {
		const field = new Float32Array(width * height);
		for (let i = 0; i < field.length; i++) {
			const a = data[i * 4 + 3] as number;
			field[i] = k === 3 ? a : ((data[i * 4 + k] as number) * a) / 255;
		}
		return soften(field, width, height);
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
				out[to + k] = byte(texel(soft, data[from * 4 + k] as number, own));
			}
			out[to + 3] = keepAlpha ? own : byte(alpha);
		}
	return out;
}
