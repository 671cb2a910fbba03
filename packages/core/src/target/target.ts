import type { Kernels, Ptr } from '@eppu/kernels';
import { TILE, TILE_TEXELS } from '../surface/index.ts';
import { BIN, type Bins, recordsOf } from './bins.ts';
import { type Dab, lineBehind, nothingBehind, slopeOf } from './dab.ts';
import { tipsOf } from './tips.ts';

/** Stroke coverage of one sheet: 16 bit a texel in tile order, and a byte a tile that dabs set where they touch. */
export interface Coverage {
	readonly width: number;
	readonly height: number;
	readonly cols: number;
	readonly rows: number;
	readonly at: Ptr;
	readonly touched: Ptr;
}

/** Where dabs land. */
export interface Target {
	/**
	 * Adds a dab to the coverage: the stronger stays, or with `buildUp` it adds. `before` is the dab set just before
	 * it, if any: what that one covers at least as well is left out.
	 */
	dab(coverage: Coverage, dab: Dab, buildUp: boolean, before?: Dab): void;
	/** Makes ready what a dab near x, y will need. */
	warm(x: number, y: number, radius: number): void;
}

/** Zeroed coverage for a sheet. */
export function createCoverage(kernels: Kernels, width: number, height: number): Coverage {
	const cols = Math.ceil(width / TILE);
	const rows = Math.ceil(height / TILE);
	const coverage = {
		width,
		height,
		cols,
		rows,
		at: kernels.heap.alloc(cols * rows * TILE_TEXELS * 2),
		touched: kernels.heap.alloc(cols * rows),
	};
	kernels.run.clear(coverage.at, cols * rows * TILE_TEXELS * 2);
	kernels.run.clear(coverage.touched, cols * rows);
	return coverage;
}

export function dropCoverage(kernels: Kernels, coverage: Coverage): void {
	kernels.heap.free(coverage.at, coverage.cols * coverage.rows * TILE_TEXELS * 2);
	kernels.heap.free(coverage.touched, coverage.cols * coverage.rows);
}

/** Address of a tile's coverage. */
export const coverageTile = (coverage: Coverage, tile: number): Ptr => coverage.at + tile * TILE_TEXELS * 2;

/** Tiles touched since the last call, in order. */
export function takeTouched(kernels: Kernels, coverage: Coverage): number[] {
	const { cols, rows, touched } = coverage;
	const marks = kernels.heap.u8.subarray(touched, touched + cols * rows);
	const found: number[] = [];
	for (let tile = marks.indexOf(1); tile >= 0; tile = marks.indexOf(1, tile + 1)) found.push(tile);
	for (const tile of found) marks[tile] = 0;
	return found;
}

/** Wipes the coverage of tiles to 0 again. */
export function clearCoverage(kernels: Kernels, coverage: Coverage, tiles: Iterable<number>): void {
	for (const tile of tiles) kernels.run.clear(coverageTile(coverage, tile), TILE_TEXELS * 2);
}

/** Dabs as discs on the sheet itself; x, y, radius in texels. */
export function sheetTarget(kernels: Kernels): Target {
	const tips = tipsOf(kernels);
	return {
		dab(coverage, dab, buildUp, before) {
			const [a, b, c] = buildUp ? nothingBehind : lineBehind(dab, before);
			const tip = tips.round(dab.x, dab.y, dab.radius, dab.edge);
			const strength = Math.round(dab.strength * 65536);
			kernels.run.stampFlat(
				coverage.at,
				coverage.touched,
				coverage.cols,
				coverage.rows,
				tip.at,
				tip.side,
				tip.x,
				tip.y,
				strength,
				buildUp ? 1 : 0,
				a,
				b,
				c,
			);
		},
		warm() {},
	};
}

const binsAround = (
	bins: Bins,
	x: number,
	y: number,
	radius: number,
	visit: (bin: number, bx: number, by: number) => void,
): void => {
	const x0 = Math.max(0, Math.floor((x - radius) / BIN));
	const x1 = Math.min(bins.cols - 1, Math.floor((x + radius) / BIN));
	const y0 = Math.max(0, Math.floor((y - radius) / BIN));
	const y1 = Math.min(bins.rows - 1, Math.floor((y + radius) / BIN));
	for (let by = y0; by <= y1; by++) {
		const dy = Math.max(by * BIN - y, y - by * BIN - BIN, 0);
		for (let bx = x0; bx <= x1; bx++) {
			const dx = Math.max(bx * BIN - x, x - bx * BIN - BIN, 0);
			if (dx * dx + dy * dy <= radius * radius) visit(by * bins.cols + bx, bx * BIN, by * BIN);
		}
	}
};

/** Dabs as discs on the screen, on whatever texels are seen under them; x, y, radius in px of the viewport. */
export function modelTarget(kernels: Kernels, bins: Bins): Target {
	return {
		dab(coverage, dab, buildUp, before) {
			const [a, b, c] = buildUp ? nothingBehind : lineBehind(dab, before);
			binsAround(bins, dab.x, dab.y, dab.radius, (bin, bx, by) => {
				// The bin's corner farthest ahead lies behind the line: all of it does.
				if (a * (a > 0 ? bx + BIN : bx) + b * (b > 0 ? by + BIN : by) < c - 1) return;
				const [texels, places, count] = recordsOf(kernels, bins, bin);
				if (count)
					kernels.run.dabRecords(
						texels,
						places,
						count,
						coverage.at,
						coverage.touched,
						bx - dab.x,
						by - dab.y,
						dab.radius,
						slopeOf(dab.radius, dab.edge),
						dab.strength * 65535,
						buildUp ? 1 : 0,
					);
			});
		},
		warm(x, y, radius) {
			binsAround(bins, x, y, radius, (bin) => recordsOf(kernels, bins, bin));
		},
	};
}
