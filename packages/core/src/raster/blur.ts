/**
 * Radii of the three box blurs that make a Gauss blur of standard deviation `sigma` cells; those of 0 are left out.
 * Source: P. Kutskir, "Fastest Gaussian Blur", after W. Wells 1986.
 */
export function boxRadii(sigma: number): number[] {
	if (sigma < 0.3) return [];
	const ideal = Math.sqrt((12 * sigma * sigma) / 3 + 1);
	let low = Math.floor(ideal);
	if (low % 2 === 0) low--;
	const lows = Math.round((12 * sigma * sigma - 3 * low * low - 12 * low - 9) / (-4 * low - 4));
	return [0, 1, 2].map((n) => ((n < lows ? low : low + 2) - 1) / 2).filter((r) => r >= 1);
}

/**
 * A Gauss blur of one channel with standard deviation `sigma` cells, in place; borders go on as they are. Three box
 * blurs after each other: within 7 % of the peak of the true one.
 */
export function blurField(field: Float32Array, width: number, height: number, sigma: number): Float32Array {
	const other = new Float32Array(Math.max(width, height));
	const pass = (start: number, step: number, count: number, r: number): void => {
		const first = field[start] as number;
		const last = field[start + (count - 1) * step] as number;
		let sum = first * (r + 1);
		for (let i = 0; i < r; i++) sum += i < count ? (field[start + i * step] as number) : last;
		const over = 1 / (2 * r + 1);
		for (let i = 0; i < count; i++) {
			sum += i + r < count ? (field[start + (i + r) * step] as number) : last;
			if (i > 0) sum -= i - r - 1 >= 0 ? (field[start + (i - r - 1) * step] as number) : first;
			else sum -= first;
			other[i] = sum * over;
		}
		for (let i = 0; i < count; i++) field[start + i * step] = other[i] as number;
	};
	for (const r of boxRadii(sigma)) {
		for (let y = 0; y < height; y++) pass(y * width, 1, width, r);
		for (let x = 0; x < width; x++) pass(x, width, height, r);
	}
	return field;
}

/** How far a blur of `sigma` reaches, cells. */
export const blurReach = (sigma: number): number => (sigma < 0.3 ? 0 : Math.ceil(3 * sigma) + 2);

/** A field at a place between four of its cells (cell centres at .5); beside it as at its border. */
export function fieldAt(field: Float32Array, width: number, height: number, x: number, y: number): number {
	const cx = Math.min(width - 1, Math.max(0, x - 0.5));
	const cy = Math.min(height - 1, Math.max(0, y - 0.5));
	const x0 = Math.floor(cx);
	const y0 = Math.floor(cy);
	const x1 = x0 + 1 < width ? x0 + 1 : x0;
	const y1 = y0 + 1 < height ? y0 + 1 : y0;
	const s = cx - x0;
	const t = cy - y0;
	const top = (field[y0 * width + x0] as number) * (1 - s) + (field[y0 * width + x1] as number) * s;
	const low = (field[y1 * width + x0] as number) * (1 - s) + (field[y1 * width + x1] as number) * s;
	return top * (1 - t) + low * t;
}

/** The mean along a line of `length` cells through each cell, turned by `angle` (radians, clockwise on the sheet). */
export function blurAlong(
	field: Float32Array,
	width: number,
	height: number,
	length: number,
	angle: number,
): Float32Array {
	const taps = Math.max(1, Math.min(65, Math.ceil(length)));
	if (length < 0.5) return field;
	const [dx, dy] = [Math.cos(angle), Math.sin(angle)];
	const out = new Float32Array(field.length);
	for (let y = 0; y < height; y++)
		for (let x = 0; x < width; x++) {
			let sum = 0;
			for (let k = 0; k < taps; k++) {
				const t = ((k + 0.5) / taps - 0.5) * length;
				sum += fieldAt(field, width, height, x + 0.5 + t * dx, y + 0.5 + t * dy);
			}
			out[y * width + x] = sum / taps;
		}
	return out;
}
