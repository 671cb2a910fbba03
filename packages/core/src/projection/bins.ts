import type { Kernels, Ptr } from '@eppu/kernels';
import { facesOfTile, type TexelMap } from '../atlas/index.ts';
import { TILE, TILE_TEXELS } from '../surface/index.ts';
import type { ScreenRows } from './screenRows.ts';
import { seenShare, takenAt, type View } from './view.ts';

/** Side of a screen bin, px. */
export const BIN = 32;

/** Steps of a px in which a record keeps its place in the bin; the kernel dabRecords knows it too. */
export const PLACE_STEPS = 2047;

/** A record's coverage index, and where its weight begins; the kernels that read records know them too. */
export const INDEX_BITS = 26;

export const INDEX_MASK = (1 << INDEX_BITS) - 1;

/** The weight that takes all of a dab. */
export const FULL = 63;

/**
 * The visible texels of a sheet through a view, in 32 px screen bins. A bin is filled when a dab first needs it and
 * kept until the view changes. A record is a coverage index (tile order, below 2^26) with a weight of 6 bits above it,
 * and a place in the bin.
 */
export interface Bins {
	readonly view: View;
	readonly map: TexelMap;
	readonly cols: number;
	readonly rows: number;
	/** Faces of the sheet that may touch a bin. */
	readonly faceOffset: Uint32Array;
	readonly faces: Uint32Array;
	/** Per face ROWS: x, y, 1 coefficients of X, Y, W, N in texel coordinates, and of how far it faces the camera. */
	readonly texelRows: Float64Array;
	/** Per bin: the address of its records (texels, then places), 0 while it is not filled; and how many. */
	readonly address: Uint32Array;
	readonly counts: Uint32Array;
	readonly sizes: Uint32Array;
}

const PAD = 16;

const ROWS = 15;

const cell = (v: number, most: number): number => Math.max(0, Math.min(most - 1, Math.floor(v / BIN)));

/** Lays out the bins of a view over a sheet; no bin is filled yet. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: runs for every face at the start of a stroke: calls in between cost half of it.
export function createBins(view: View, map: TexelMap): Bins {
	const { mesh, projection, X, Y, W, N, front, facing } = view;
	const { indices, uvs } = mesh;
	const cols = Math.ceil(projection.width / BIN);
	const rows = Math.ceil(projection.height / BIN);
	const texelRows = new Float64Array(front.length * ROWS);
	const box = new Int32Array(front.length * 4).fill(-1);
	const turns = view.fade > 0 && mesh.normals ? turnsOf(view) : null;
	const faceOffset = new Uint32Array(cols * rows + 1);
	for (let face = 0; face < front.length; face++) {
		if (!front[face] || map.spanOffset[face] === map.spanOffset[face + 1]) continue;
		if (takenAt(view, facing[face] as number) === 0) continue;
		const a = indices[face * 3] as number,
			b = indices[face * 3 + 1] as number,
			c = indices[face * 3 + 2] as number;
		const ax = (uvs[a * 2] as number) * map.width,
			ay = (uvs[a * 2 + 1] as number) * map.height;
		const bx = (uvs[b * 2] as number) * map.width - ax,
			by = (uvs[b * 2 + 1] as number) * map.height - ay;
		const cx = (uvs[c * 2] as number) * map.width - ax,
			cy = (uvs[c * 2 + 1] as number) * map.height - ay;
		const det = bx * cy - cx * by;
		if (det === 0) continue;
		for (let k = 0; k < (turns ? 5 : 4); k++) {
			const list = k === 0 ? X : k === 1 ? Y : k === 2 ? W : k === 3 ? N : (turns as Float64Array);
			const f0 = list[a] as number;
			const f1 = (list[b] as number) - f0;
			const f2 = (list[c] as number) - f0;
			const gx = (f1 * cy - f2 * by) / det;
			const gy = (f2 * bx - f1 * cx) / det;
			texelRows[face * ROWS + k * 3] = gx;
			texelRows[face * ROWS + k * 3 + 1] = gy;
			texelRows[face * ROWS + k * 3 + 2] = f0 - gx * ax - gy * ay;
		}
		const wa = W[a] as number,
			wb = W[b] as number,
			wc = W[c] as number;
		let x0 = 0,
			y0 = 0,
			x1 = projection.width,
			y1 = projection.height;
		if (wa >= projection.nearest && wb >= projection.nearest && wc >= projection.nearest) {
			const sxa = (X[a] as number) / wa,
				sxb = (X[b] as number) / wb,
				sxc = (X[c] as number) / wc;
			const sya = (Y[a] as number) / wa,
				syb = (Y[b] as number) / wb,
				syc = (Y[c] as number) / wc;
			x0 = Math.min(sxa, sxb, sxc);
			x1 = Math.max(sxa, sxb, sxc);
			y0 = Math.min(sya, syb, syc);
			y1 = Math.max(sya, syb, syc);
		}
		if ((map.gutterOffset[face + 1] as number) > (map.gutterOffset[face] as number)) {
			// A face at the border also shows the gutter that continues it.
			const o = face * ROWS;
			const w = Math.max(projection.nearest, Math.min(wa, wb, wc));
			const along = Math.sqrt((texelRows[o] as number) ** 2 + (texelRows[o + 3] as number) ** 2);
			const across = Math.sqrt((texelRows[o + 1] as number) ** 2 + (texelRows[o + 4] as number) ** 2);
			const grow = Math.min(64, ((map.bleed + 0.5) * Math.max(along, across)) / w);
			x0 -= grow;
			y0 -= grow;
			x1 += grow;
			y1 += grow;
		}
		if (!(x1 >= 0 && y1 >= 0 && x0 < projection.width && y0 < projection.height)) continue;
		box[face * 4] = cell(x0, cols);
		box[face * 4 + 1] = cell(y0, rows);
		box[face * 4 + 2] = cell(x1, cols);
		box[face * 4 + 3] = cell(y1, rows);
		for (let y = box[face * 4 + 1] as number; y <= (box[face * 4 + 3] as number); y++)
			for (let x = box[face * 4] as number; x <= (box[face * 4 + 2] as number); x++)
				faceOffset[y * cols + x + 1] = (faceOffset[y * cols + x + 1] as number) + 1;
	}
	for (let i = 0; i < cols * rows; i++) faceOffset[i + 1] = (faceOffset[i + 1] as number) + (faceOffset[i] as number);
	const faces = new Uint32Array(faceOffset[cols * rows] as number);
	const next = faceOffset.slice();
	for (let face = 0; face < front.length; face++) {
		if ((box[face * 4] as number) < 0) continue;
		for (let y = box[face * 4 + 1] as number; y <= (box[face * 4 + 3] as number); y++)
			for (let x = box[face * 4] as number; x <= (box[face * 4 + 2] as number); x++) {
				const at = next[y * cols + x] as number;
				faces[at] = face;
				next[y * cols + x] = at + 1;
			}
	}
	const bins = cols * rows;
	return {
		view,
		map,
		cols,
		rows,
		faceOffset,
		faces,
		texelRows,
		address: new Uint32Array(bins),
		counts: new Uint32Array(bins),
		sizes: new Uint32Array(bins),
	};
}

// Where a bin's records are gathered before their number is known; shared by all fills of a thread.
let texelsFound = new Uint32Array(1 << 14);

let placesFound = new Uint32Array(1 << 14);

/** Per vertex the cosine between its normal and the way to the camera. */
function turnsOf({ mesh, projection }: View): Float64Array {
	const { positions } = mesh;
	const normals = mesh.normals as Float32Array;
	const [ex, ey, ez, ew] = projection.eye;
	return Float64Array.from({ length: positions.length / 3 }, (_, v) => {
		const [dx, dy, dz] = [
			ex - (positions[v * 3] as number) * ew,
			ey - (positions[v * 3 + 1] as number) * ew,
			ez - (positions[v * 3 + 2] as number) * ew,
		];
		const along =
			dx * (normals[v * 3] as number) + dy * (normals[v * 3 + 1] as number) + dz * (normals[v * 3 + 2] as number);
		return along / (Math.sqrt(dx * dx + dy * dy + dz * dz) || 1);
	});
}

/** How a face's nearness grows per px to the right and down; 0 where it reaches behind the camera. */
function gradientOf({ mesh, projection, X, Y, W, N }: View, face: number): readonly [number, number] {
	const [a, b, c] = [0, 1, 2].map((k) => mesh.indices[face * 3 + k] as number) as [number, number, number];
	const at = (list: Float64Array, v: number): number => (list[v] as number) / (W[v] as number);
	if (Math.min(W[a] as number, W[b] as number, W[c] as number) < projection.nearest) return [0, 0];
	const [bx, by, bn] = [at(X, b) - at(X, a), at(Y, b) - at(Y, a), at(N, b) - at(N, a)];
	const [cx, cy, cn] = [at(X, c) - at(X, a), at(Y, c) - at(Y, a), at(N, c) - at(N, a)];
	const area = bx * cy - cx * by;
	return area === 0 ? [0, 0] : [(bn * cy - cn * by) / area, (cn * bx - bn * cx) / area];
}

/** Fills a bin with the records of the texels seen in it, and returns the address of its records. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: runs for every face at the start of a stroke: calls in between cost half of it.
export function fillBin(kernels: Kernels, bins: Bins, bin: number): Ptr {
	const { view, map, cols, faceOffset, faces, texelRows: T } = bins;
	const smooth = view.fade > 0 && view.mesh.normals !== null;
	const { width, height, nearest } = view.projection;
	const tileCols = Math.ceil(map.width / TILE);
	const xa = (bin % cols) * BIN;
	const ya = Math.floor(bin / cols) * BIN;
	const xb = Math.min(width, xa + BIN);
	const yb = Math.min(height, ya + BIN);
	let n = 0;
	const room = (more: number): void => {
		if (n + more <= texelsFound.length) return;
		const size = Math.max(texelsFound.length * 2, n + more);
		const [t, p] = [new Uint32Array(size), new Uint32Array(size)];
		t.set(texelsFound);
		p.set(placesFound);
		texelsFound = t;
		placesFound = p;
	};
	for (let q = faceOffset[bin] as number; q < (faceOffset[bin + 1] as number); q++) {
		const face = faces[q] as number;
		const o = face * ROWS;
		const Xx = T[o] as number,
			Xy = T[o + 1] as number,
			X1 = T[o + 2] as number;
		const Yx = T[o + 3] as number,
			Yy = T[o + 4] as number,
			Y1 = T[o + 5] as number;
		const Wx = T[o + 6] as number,
			Wy = T[o + 7] as number,
			W1 = T[o + 8] as number;
		const Nx = T[o + 9] as number,
			Ny = T[o + 10] as number,
			N1 = T[o + 11] as number;
		const [gradX, gradY] = gradientOf(view, face);
		const whole = takenAt(view, view.facing[face] as number);
		const weightAt = (x: number, y: number, sx: number, sy: number, n: number): number => {
			const share = seenShare(view, sx, sy, n, gradX, gradY);
			if (share === 0 || view.reach !== 'seen') return Math.round(share * FULL);
			const taken = smooth
				? takenAt(view, (T[o + 12] as number) * x + (T[o + 13] as number) * y + (T[o + 14] as number))
				: whole;
			return Math.round(share * taken * FULL);
		};
		// The bin's four sides as half planes a·x + b·y + c >= 0 in texel coordinates, solved for x in each row.
		const a0 = Xx - xa * Wx,
			a1 = xb * Wx - Xx,
			a2 = Yx - ya * Wx,
			a3 = yb * Wx - Yx;
		const b0 = Xy - xa * Wy,
			b1 = xb * Wy - Xy,
			b2 = Yy - ya * Wy,
			b3 = yb * Wy - Yy;
		const c0 = X1 - xa * W1,
			c1 = xb * W1 - X1,
			c2 = Y1 - ya * W1,
			c3 = yb * W1 - Y1;
		let s = map.spanOffset[face] as number;
		const end = map.spanOffset[face + 1] as number;
		for (let y = map.firstRow[face] as number; s < end; s++, y++) {
			const yc = y + 0.5;
			let low = (map.spans[s * 2] as number) + 0.5;
			let high = (map.spans[s * 2 + 1] as number) - 0.5;
			let v = -(b0 * yc + c0) / a0;
			if (a0 > 0) {
				if (v > low) low = v;
			} else if (a0 < 0 && v < high) high = v;
			v = -(b1 * yc + c1) / a1;
			if (a1 > 0) {
				if (v > low) low = v;
			} else if (a1 < 0 && v < high) high = v;
			v = -(b2 * yc + c2) / a2;
			if (a2 > 0) {
				if (v > low) low = v;
			} else if (a2 < 0 && v < high) high = v;
			v = -(b3 * yc + c3) / a3;
			if (a3 > 0) {
				if (v > low) low = v;
			} else if (a3 < 0 && v < high) high = v;
			if (!(high >= low - 1)) continue;
			// A texel wider on either side than the sum says: the exact test follows at each.
			const x0 = Math.max(map.spans[s * 2] as number, Math.ceil(low - 0.501));
			const x1 = Math.min((map.spans[s * 2 + 1] as number) - 1, Math.floor(high - 0.499));
			room(x1 - x0 + 1);
			let X = Xx * (x0 + 0.5) + Xy * yc + X1;
			let Y = Yx * (x0 + 0.5) + Yy * yc + Y1;
			let W = Wx * (x0 + 0.5) + Wy * yc + W1;
			let N = Nx * (x0 + 0.5) + Ny * yc + N1;
			const row = (((y >> 6) * tileCols) << 12) + ((y & 63) << 6);
			for (let x = x0; x <= x1; x++, X += Xx, Y += Yx, W += Wx, N += Nx) {
				if (W < nearest) continue;
				const sx = X / W;
				const sy = Y / W;
				if (sx < xa || sy < ya || sx >= xb || sy >= yb) continue;
				const weight = weightAt(x + 0.5, yc, sx, sy, N / W);
				if (weight === 0) continue;
				texelsFound[n] = (row + ((x >> 6) << 12) + (x & 63)) | (weight << INDEX_BITS);
				placesFound[n++] = ((sx - xa) * PLACE_STEPS) | (((sy - ya) * PLACE_STEPS) << 16);
			}
		}
		const g1 = map.gutterOffset[face + 1] as number;
		room(g1 - (map.gutterOffset[face] as number));
		for (let g = map.gutterOffset[face] as number; g < g1; g++) {
			const texel = map.gutterTexel[g] as number;
			const x = texel % map.width;
			const y = (texel - x) / map.width;
			// The place is where the surface, continued, would show this texel …
			const W = Wx * (x + 0.5) + Wy * (y + 0.5) + W1;
			if (W < nearest) continue;
			const sx = (Xx * (x + 0.5) + Xy * (y + 0.5) + X1) / W;
			const sy = (Yx * (x + 0.5) + Yy * (y + 0.5) + Y1) / W;
			if (sx < xa || sy < ya || sx >= xb || sy >= yb) continue;
			// … but whether it is seen is asked of the texel that it continues.
			const from = map.gutterSource[g] as number;
			const fx = (from % map.width) + 0.5;
			const fy = Math.floor(from / map.width) + 0.5;
			const w = Wx * fx + Wy * fy + W1;
			if (w < nearest) continue;
			const px = (Xx * fx + Xy * fy + X1) / w;
			const py = (Yx * fx + Yy * fy + Y1) / w;
			if (px < 0 || py < 0 || px >= width || py >= height) continue;
			const weight = weightAt(fx, fy, px, py, (Nx * fx + Ny * fy + N1) / w);
			if (weight === 0) continue;
			texelsFound[n] =
				((((y >> 6) * tileCols) << 12) + ((y & 63) << 6) + ((x >> 6) << 12) + (x & 63)) | (weight << INDEX_BITS);
			placesFound[n++] = ((sx - xa) * PLACE_STEPS) | (((sy - ya) * PLACE_STEPS) << 16);
		}
	}
	// Sizes in steps of 4 KiB, so that blocks of one view serve the next.
	const size = Math.ceil((n * 8 + PAD * 2) / 4096) * 4096;
	const at = kernels.heap.alloc(size);
	kernels.heap.u32.set(texelsFound.subarray(0, n), at >> 2);
	kernels.heap.u32.set(placesFound.subarray(0, n), (at >> 2) + n + PAD / 4);
	bins.address[bin] = at;
	bins.counts[bin] = n;
	bins.sizes[bin] = size;
	return at;
}

/** The bin's records: address of the texels, of the places, and how many; filled where they were not. */
export function recordsOf(kernels: Kernels, bins: Bins, bin: number): readonly [Ptr, Ptr, number] {
	const at = bins.address[bin] || fillBin(kernels, bins, bin);
	const count = bins.counts[bin] as number;
	return [at, at + count * 4 + PAD, count];
}

/** How a face of the sheet shows in the view. */
export const texelRowsOf = ({ texelRows }: Bins, face: number): ScreenRows =>
	texelRows.subarray(face * ROWS, face * ROWS + 9) as unknown as ScreenRows;

/** Gives the records of all bins back. */
export function dropBins(kernels: Kernels, bins: Bins): void {
	for (let bin = 0; bin < bins.address.length; bin++)
		if (bins.address[bin]) kernels.heap.free(bins.address[bin] as number, bins.sizes[bin] as number);
	bins.address.fill(0);
}

/**
 * Where each texel of a tile is on the screen, x and y one after the other; NaN where it shows no face that looks at
 * the camera. What hides it is not asked.
 */
export function placesOfTile({ view, map, texelRows: T }: Bins, tile: number): Float32Array {
	const cols = Math.ceil(map.width / TILE);
	const x0 = (tile % cols) * TILE;
	const y0 = Math.floor(tile / cols) * TILE;
	const faces = facesOfTile(map, tile);
	const out = new Float32Array(TILE_TEXELS * 2).fill(Number.NaN);
	for (let i = 0; i < TILE_TEXELS; i++) {
		const face = faces[i] as number;
		if (face < 0 || !view.front[face]) continue;
		const o = face * ROWS;
		const x = x0 + (i % TILE) + 0.5;
		const y = y0 + Math.floor(i / TILE) + 0.5;
		const W = (T[o + 6] as number) * x + (T[o + 7] as number) * y + (T[o + 8] as number);
		if (W < view.projection.nearest) continue;
		out[i * 2] = ((T[o] as number) * x + (T[o + 1] as number) * y + (T[o + 2] as number)) / W;
		out[i * 2 + 1] = ((T[o + 3] as number) * x + (T[o + 4] as number) * y + (T[o + 5] as number)) / W;
	}
	return out;
}
