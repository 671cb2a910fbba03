import type { Rect } from './rect.ts';

/** Closed lines of places x, y, x, y …; texel (0, 0) reaches from 0 to 1. Where they wind round a place, it is inside. */
export type Path = readonly Float64Array[];

/** Six numbers of an affine map: x' = a·x + b·y + c, y' = d·x + e·y + f. */
export type Affine = readonly [number, number, number, number, number, number];

export const identity: Affine = [1, 0, 0, 0, 1, 0];

/** First `inner`, then `outer`. */
export const after = (outer: Affine, inner: Affine): Affine => {
	const [a, b, c, d, e, f] = outer;
	const [p, q, r, s, t, u] = inner;
	return [a * p + b * s, a * q + b * t, a * r + b * u + c, d * p + e * s, d * q + e * t, d * r + e * u + f];
};

/** The map back, or null where the map is flat. */
export function inverseOf([a, b, c, d, e, f]: Affine): Affine | null {
	const det = a * e - b * d;
	if (!Number.isFinite(det) || Math.abs(det) < 1e-12) return null;
	return [e / det, -b / det, (b * f - e * c) / det, -d / det, a / det, (d * c - a * f) / det];
}

export const mappedPath = (path: Path, [a, b, c, d, e, f]: Affine): Path =>
	path.map((line) => {
		const out = new Float64Array(line.length);
		for (let i = 0; i < line.length; i += 2) {
			const [x, y] = [line[i] as number, line[i + 1] as number];
			out[i] = a * x + b * y + c;
			out[i + 1] = d * x + e * y + f;
		}
		return out;
	});

/** The whole texels that a path touches. */
export function pathRect(path: Path): Rect {
	let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
	for (const line of path)
		for (let i = 0; i < line.length; i += 2) {
			x0 = Math.min(x0, line[i] as number);
			x1 = Math.max(x1, line[i] as number);
			y0 = Math.min(y0, line[i + 1] as number);
			y1 = Math.max(y1, line[i + 1] as number);
		}
	if (!(x1 >= x0)) return { x: 0, y: 0, width: 0, height: 0 };
	const [x, y] = [Math.floor(x0), Math.floor(y0)];
	return { x, y, width: Math.ceil(x1) - x, height: Math.ceil(y1) - y };
}

/**
 * How much of each texel of a rectangle a path covers, 0..255, exactly by area; where lines wind round more than once it
 * counts as once. Method: signed areas left of each edge, summed along rows (R. Levien, "font-rs", 2016).
 */
export function pathCoverage(path: Path, rect: Rect): Uint8Array {
	const { width, height } = rect;
	const sums = new Float32Array(width * height + 1);
	const edge = (ax: number, ay: number, bx: number, by: number): void => {
		if (ay === by) return;
		const way = ay < by ? 1 : -1;
		const [tx, ty, ux, uy] = ay < by ? [ax, ay, bx, by] : [bx, by, ax, ay];
		const slope = (ux - tx) / (uy - ty);
		const last = Math.min(height, Math.ceil(uy));
		let x = ty < 0 ? tx - ty * slope : tx;
		for (let row = Math.max(0, Math.floor(ty)); row < last; row++) {
			const from = Math.max(row, ty);
			const to = Math.min(row + 1, uy);
			const high = to - from;
			const next = x + slope * high;
			const area = way * high;
			const [left, right] = x < next ? [x, next] : [next, x];
			x = next;
			if (right <= 0) {
				sums[row * width] = (sums[row * width] as number) + area;
				continue;
			}
			if (left >= width) continue;
			// What lies left of the rectangle counts as at its border.
			const l = Math.max(0, left);
			const r = Math.min(width, right);
			const whole = right - left;
			let rest = area;
			if (left < 0 && whole > 0) {
				const beside = (area * -left) / whole;
				sums[row * width] = (sums[row * width] as number) + beside;
				rest -= beside;
			}
			if (right > width && whole > 0) rest -= (area * (right - width)) / whole;
			const first = Math.floor(l);
			const end = Math.ceil(r);
			if (end <= first + 1) {
				const middle = (l + r) / 2 - first;
				put(row, first, rest * (1 - middle));
				put(row, first + 1, rest * middle);
				continue;
			}
			const share = rest / (r - l);
			for (let cell = first; cell < end; cell++) {
				const a = Math.max(l, cell);
				const b = Math.min(r, cell + 1);
				const part = share * (b - a);
				const middle = (a + b) / 2 - cell;
				put(row, cell, part * (1 - middle));
				put(row, cell + 1, part * middle);
			}
		}
	};
	const put = (row: number, cell: number, area: number): void => {
		if (cell < width) sums[row * width + cell] = (sums[row * width + cell] as number) + area;
	};
	for (const line of path) {
		const n = line.length;
		for (let i = 0; i < n; i += 2) {
			const j = i + 2 === n ? 0 : i + 2;
			edge(
				(line[i] as number) - rect.x,
				(line[i + 1] as number) - rect.y,
				(line[j] as number) - rect.x,
				(line[j + 1] as number) - rect.y,
			);
		}
	}
	const out = new Uint8Array(width * height);
	for (let row = 0; row < height; row++) {
		let sum = 0;
		for (let x = 0, i = row * width; x < width; x++, i++) {
			sum += sums[i] as number;
			out[i] = Math.min(255, Math.round(Math.abs(sum) * 255));
		}
	}
	return out;
}
