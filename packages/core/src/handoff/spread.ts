import type { Picture } from '../surface/index.ts';

/**
 * A picture whose colours go on into what is clear: each clear texel within reach takes the colour of the nearest that is
 * not. Alpha stays, so that filters and file readers meet no strange colour at a rim; with `solid` what is reached, and
 * what is half there, becomes opaque. Distances by sequential Euclidean mapping (Danielsson 1980), exact but for
 * fractions of a texel.
 */
export function spread({ width, height, data }: Picture, reach: number | 'all', solid: boolean): Picture {
	const out = data.slice();
	const texels = width * height;
	/** The nearest texel with paint, by its place; -1 where none is known. */
	const source = new Int32Array(texels).fill(-1);
	for (let i = 0; i < texels; i++) if (data[i * 4 + 3]) source[i] = i;
	const distance = (i: number, from: number): number => {
		const dx = (i % width) - (from % width);
		const dy = Math.floor(i / width) - Math.floor(from / width);
		return dx * dx + dy * dy;
	};
	const better = (i: number, j: number): void => {
		const from = source[j] as number;
		if (from < 0) return;
		const known = source[i] as number;
		if (known < 0 || distance(i, from) < distance(i, known)) source[i] = from;
	};
	const pass = (down: boolean): void => {
		for (let n = 0; n < height; n++) {
			const y = down ? n : height - 1 - n;
			const before = down ? y - 1 : y + 1;
			for (let x = 0; x < width; x++) {
				const i = y * width + x;
				if (source[i] === i || before < 0 || before >= height) continue;
				for (let k = Math.max(0, x - 1); k <= Math.min(width - 1, x + 1); k++) better(i, before * width + k);
			}
			for (let x = 1; x < width; x++)
				if (source[y * width + x] !== y * width + x) better(y * width + x, y * width + x - 1);
			for (let x = width - 2; x >= 0; x--)
				if (source[y * width + x] !== y * width + x) better(y * width + x, y * width + x + 1);
		}
	};
	pass(true);
	pass(false);
	const most = reach === 'all' ? Number.POSITIVE_INFINITY : reach * reach;
	for (let i = 0; i < texels; i++) {
		const from = source[i] as number;
		if (from < 0 || (from !== i && distance(i, from) > most)) continue;
		if (from !== i) for (let k = 0; k < 3; k++) out[i * 4 + k] = data[from * 4 + k] as number;
		if (solid) out[i * 4 + 3] = 255;
	}
	return { width, height, data: out };
}
