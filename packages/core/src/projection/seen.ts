import type { Kernels } from '@eppu/kernels';
import { facesOfTile, triangleSpans } from '../atlas/index.ts';
import { type Affine, mappedPath, meet, type Path, pathCoverage, pathRect, type Rect } from '../raster/index.ts';
import { TILE } from '../surface/index.ts';
import { BIN, type Bins, FULL, INDEX_BITS, INDEX_MASK, PLACE_STEPS, recordsOf, texelRowsOf } from './bins.ts';
import { shownAt } from './screenRows.ts';
import type { View } from './view.ts';

/** The texels of a sheet that are seen in a view, as a block: where each is on the screen, and how much of it is seen. */
export interface SeenTexels {
	/** Whole texels around all that are seen. */
	readonly rect: Rect;
	/** Px of the view, x and y of each texel of the rectangle, row by row; NaN where it is not seen. */
	readonly places: Float32Array;
	/** How much of each is seen and takes paint, 0..255. */
	readonly share: Uint8Array;
	/** Px of the view along a texel's side. */
	readonly span: Float32Array;
}

/** The seen texels of a sheet in a rectangle of the view; all of the view where none is given. */
export function seenTexels(kernels: Kernels, bins: Bins, within?: Rect): SeenTexels {
	const { view, map } = bins;
	const { width, height } = view.projection;
	const box = meet(within ?? { x: 0, y: 0, width, height }, { x: 0, y: 0, width, height });
	const tileCols = Math.ceil(map.width / TILE);
	const found: { readonly bin: number; readonly bx: number; readonly by: number }[] = [];
	for (let by = Math.floor(box.y / BIN); by * BIN < box.y + box.height; by++)
		for (let bx = Math.floor(box.x / BIN); bx * BIN < box.x + box.width; bx++)
			if (by < bins.rows && bx < bins.cols) found.push({ bin: by * bins.cols + bx, bx: bx * BIN, by: by * BIN });
	const each = (visit: (x: number, y: number, index: number, px: number, py: number, weight: number) => void): void => {
		for (const { bin, bx, by } of found) {
			const [texels, places, count] = recordsOf(kernels, bins, bin);
			const words = kernels.heap.u32;
			for (let i = 0; i < count; i++) {
				const place = words[(places >> 2) + i] as number;
				const px = bx + (place & 0xffff) / PLACE_STEPS;
				const py = by + (place >>> 16) / PLACE_STEPS;
				if (px < box.x || py < box.y || px > box.x + box.width || py > box.y + box.height) continue;
				const word = words[(texels >> 2) + i] as number;
				const index = word & INDEX_MASK;
				const tile = index >>> 12;
				const x = (tile % tileCols) * TILE + (index & 63);
				const y = Math.floor(tile / tileCols) * TILE + ((index >>> 6) & 63);
				visit(x, y, index, px, py, word >>> INDEX_BITS);
			}
		}
	};
	let [x0, y0, x1, y1] = [Infinity, Infinity, -1, -1];
	each((x, y) => {
		if (x < x0) x0 = x;
		if (x > x1) x1 = x;
		if (y < y0) y0 = y;
		if (y > y1) y1 = y;
	});
	const rect = x1 < 0 ? { x: 0, y: 0, width: 0, height: 0 } : { x: x0, y: y0, width: x1 - x0 + 1, height: y1 - y0 + 1 };
	const count = rect.width * rect.height;
	const seen = {
		rect,
		places: new Float32Array(count * 2).fill(Number.NaN),
		share: new Uint8Array(count),
		span: new Float32Array(count),
	};
	const faces = new Map<number, Int32Array>();
	each((x, y, index, px, py, weight) => {
		const i = (y - rect.y) * rect.width + x - rect.x;
		const share = Math.round((weight * 255) / FULL);
		if (share < (seen.share[i] as number)) return;
		const tile = index >>> 12;
		let list = faces.get(tile);
		if (!list) faces.set(tile, (list = facesOfTile(map, tile)));
		seen.places[i * 2] = px;
		seen.places[i * 2 + 1] = py;
		seen.share[i] = share;
		seen.span[i] = spanAt(bins, list[index & 4095] as number, x + 0.5, y + 0.5);
	});
	return seen;
}

/** Px of the view along a texel's side: the root of the area that it takes. */
function spanAt(bins: Bins, face: number, x: number, y: number): number {
	if (face < 0) return 1;
	const [a, b, c, d] = shownAt(texelRowsOf(bins, face), x, y).per;
	return Math.sqrt(Math.abs(a * d - b * c));
}

/** The texel of a face that shows at a px of the view, its surface carried on; null where the face is seen edge-on. */
export function texelOfPx(bins: Bins, face: number, px: number, py: number): readonly [number, number] | null {
	const [Xx, Xy, X1, Yx, Yy, Y1, Wx, Wy, W1] = texelRowsOf(bins, face);
	const [a, b, c] = [Xx - px * Wx, Xy - px * Wy, px * W1 - X1];
	const [d, e, f] = [Yx - py * Wx, Yy - py * Wy, py * W1 - Y1];
	const det = a * e - b * d;
	return det === 0 ? null : [(c * e - b * f) / det, (a * f - c * d) / det];
}

/** The face that each px of a view shows, -1 where it shows none. */
export function facesSeen({ mesh, projection, X, Y, W, N, front }: View): Int32Array {
	const { indices } = mesh;
	const { width, height, nearest } = projection;
	const out = new Int32Array(width * height).fill(-1);
	const best = new Float32Array(width * height);
	for (let face = 0; face < front.length; face++) {
		if (!front[face]) continue;
		const [a, b, c] = [0, 1, 2].map((k) => indices[face * 3 + k] as number) as [number, number, number];
		if (Math.min(W[a] as number, W[b] as number, W[c] as number) < nearest) continue;
		const at = (list: Float64Array, v: number): number => (list[v] as number) / (W[v] as number);
		const [ax, ay, bx, by, cx, cy] = [at(X, a), at(Y, a), at(X, b), at(Y, b), at(X, c), at(Y, c)];
		const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
		if (area === 0) continue;
		const [na, nb, nc] = [at(N, a), at(N, b), at(N, c)];
		const gx = ((nb - na) * (cy - ay) - (nc - na) * (by - ay)) / area;
		const gy = ((nc - na) * (bx - ax) - (nb - na) * (cx - ax)) / area;
		triangleSpans(ax, ay, bx, by, cx, cy, width, height, (row, from, to) => {
			for (let i = row * width + from, x = from; x < to; x++, i++) {
				const n = na + gx * (x + 0.5 - ax) + gy * (row + 0.5 - ay);
				if (n <= (best[i] as number)) continue;
				best[i] = n;
				out[i] = face;
			}
		});
	}
	return out;
}

/** Cells of the finest picture of a path that is made. */
const MOST_CELLS = 1 << 23;

/**
 * How much of each seen texel a path in px of the view covers, 0..255: the mean over the square that the texel takes
 * there, from a table of sums (F. Crow, "Summed-Area Tables for Texture Mapping", 1984).
 */
export function coverSeen(path: Path, { rect, places, share, span }: SeenTexels, view: View): Uint8Array {
	const out = new Uint8Array(rect.width * rect.height);
	const { width, height } = view.projection;
	const box = meet(pathRect(path), { x: -2, y: -2, width: width + 4, height: height + 4 });
	if (box.width <= 0 || box.height <= 0) return out;
	const fine = Math.max(1, Math.min(4, Math.floor(Math.sqrt(MOST_CELLS / (box.width * box.height)))));
	const [w, h] = [box.width * fine, box.height * fine];
	const scaled: Affine = [fine, 0, -box.x * fine, 0, fine, -box.y * fine];
	const cover = pathCoverage(mappedPath(path, scaled), { x: 0, y: 0, width: w, height: h });
	const sums = new Uint32Array((w + 1) * (h + 1));
	for (let y = 0; y < h; y++) {
		let row = 0;
		for (let x = 0; x < w; x++) {
			row += cover[y * w + x] as number;
			sums[(y + 1) * (w + 1) + x + 1] = (sums[y * (w + 1) + x + 1] as number) + row;
		}
	}
	/** The sum left of and above a place between cells. */
	const sumAt = (x: number, y: number): number => {
		const [cx, cy] = [Math.min(w, Math.max(0, x)), Math.min(h, Math.max(0, y))];
		const [x0, y0] = [Math.min(w - 1, Math.floor(cx)), Math.min(h - 1, Math.floor(cy))];
		const [s, t] = [cx - x0, cy - y0];
		const i = y0 * (w + 1) + x0;
		const top = (sums[i] as number) * (1 - s) + (sums[i + 1] as number) * s;
		const low = (sums[i + w + 1] as number) * (1 - s) + (sums[i + w + 2] as number) * s;
		return top * (1 - t) + low * t;
	};
	for (let i = 0; i < out.length; i++) {
		if (!share[i]) continue;
		const x = ((places[i * 2] as number) - box.x) * fine;
		const y = ((places[i * 2 + 1] as number) - box.y) * fine;
		const half = Math.max(1, (span[i] as number) * fine) / 2;
		if (x < -half || y < -half || x > w + half || y > h + half) continue;
		const sum =
			sumAt(x + half, y + half) - sumAt(x - half, y + half) - sumAt(x + half, y - half) + sumAt(x - half, y - half);
		out[i] = Math.round(((sum / (4 * half * half)) * (share[i] as number)) / 255);
	}
	return out;
}
