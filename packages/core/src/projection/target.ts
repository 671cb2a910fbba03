import type { Kernels, Ptr } from '@eppu/kernels';
import { TILE, TILE_TEXELS } from '../surface/index.ts';
import { BIN, type Bins, INDEX_MASK, PLACE_STEPS, placesOfTile, recordsOf } from './bins.ts';
import { axesOf, type Dab, lineBehind, nothingBehind, slopeOf } from './dab.ts';
import { levelFor, pictureSlope, tipsOf } from './tips.ts';

/** Stroke coverage of one sheet: 16 bit a texel in tile order, and a byte a tile that dabs set where they touch. */
export interface Coverage {
	readonly width: number;
	readonly height: number;
	readonly cols: number;
	readonly rows: number;
	readonly at: Ptr;
	readonly touched: Ptr;
	/** RGBA8 a texel in tile order, where dabs have colours of their own; 0 until a stroke needs it. */
	ink: Ptr;
}

/** A texel and where it is in the target's space. */
export type TexelVisit = (index: number, x: number, y: number) => void;

/** Where dabs land. */
export interface Target {
	/**
	 * Adds a dab to the coverage: the stronger stays, or with `buildUp` it adds. `before` is the dab set just before
	 * it, if any: what that one covers at least as well is left out.
	 */
	dab(coverage: Coverage, dab: Dab, buildUp: boolean, before?: Dab): void;
	/** Makes ready what a dab near x, y will need. */
	warm(x: number, y: number, radius: number): void;
	/** Visits the texels within a square around x, y: their coverage index, and their place. */
	around(coverage: Coverage, x: number, y: number, reach: number, visit: TexelVisit): void;
	/** Where each texel of a tile is in the target's space, x and y one after the other; NaN where it is nowhere. */
	placesOf(tile: number): Float32Array;
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
		ink: 0,
	};
	kernels.run.clear(coverage.at, cols * rows * TILE_TEXELS * 2);
	kernels.run.clear(coverage.touched, cols * rows);
	return coverage;
}

export function dropCoverage(kernels: Kernels, coverage: Coverage): void {
	kernels.heap.free(coverage.at, coverage.cols * coverage.rows * TILE_TEXELS * 2);
	kernels.heap.free(coverage.touched, coverage.cols * coverage.rows);
	if (coverage.ink) kernels.heap.free(coverage.ink, coverage.cols * coverage.rows * TILE_TEXELS * 4);
}

/** The coverage's ink, made at the first call; what stands where nothing is covered has no meaning. */
export function inkOf(kernels: Kernels, coverage: Coverage): Ptr {
	coverage.ink ||= kernels.heap.alloc(coverage.cols * coverage.rows * TILE_TEXELS * 4);
	return coverage.ink;
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

/** Dabs on the sheet itself; x, y, radius in texels. */
export function sheetTarget(kernels: Kernels, width: number): Target {
	const tips = tipsOf(kernels);
	const cols = Math.ceil(width / TILE);
	return {
		dab(coverage, dab, buildUp, before) {
			const [a, b, c] = buildUp ? nothingBehind : lineBehind(dab, before);
			const plain = dab.roundness === 1 && !dab.picture;
			const tip = plain ? tips.round(dab.x, dab.y, dab.radius, dab.edge) : tips.shaped(dab);
			const strength = Math.round(dab.strength * 65536);
			const { at, touched, rows } = coverage;
			const up = buildUp ? 1 : 0;
			if (dab.color === null)
				kernels.run.stampFlat(at, touched, coverage.cols, rows, tip.at, tip.side, tip.x, tip.y, strength, up, a, b, c);
			else
				kernels.run.stampInk(
					at,
					touched,
					coverage.cols,
					rows,
					tip.at,
					tip.side,
					tip.x,
					tip.y,
					Math.min(65535, strength),
					up,
					inkOf(kernels, coverage),
					dab.color,
				);
		},
		warm() {},
		around(coverage, x, y, reach, visit) {
			const x0 = Math.max(0, Math.floor(x - reach));
			const x1 = Math.min(coverage.width - 1, Math.ceil(x + reach));
			const y1 = Math.min(coverage.height - 1, Math.ceil(y + reach));
			for (let yy = Math.max(0, Math.floor(y - reach)); yy <= y1; yy++) {
				const row = (((yy >> 6) * coverage.cols) << 12) + ((yy & 63) << 6);
				for (let xx = x0; xx <= x1; xx++) visit(row + ((xx >> 6) << 12) + (xx & 63), xx + 0.5, yy + 0.5);
			}
		},
		placesOf(tile) {
			const places = new Float32Array(TILE_TEXELS * 2);
			const x = (tile % cols) * TILE;
			const y = Math.floor(tile / cols) * TILE;
			for (let i = 0; i < TILE_TEXELS; i++) {
				places[i * 2] = x + (i % TILE) + 0.5;
				places[i * 2 + 1] = y + Math.floor(i / TILE) + 0.5;
			}
			return places;
		},
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

/** Dabs on the screen, on whatever texels are seen under them; x, y, radius in px of the viewport. */
export function modelTarget(kernels: Kernels, bins: Bins): Target {
	return {
		dab(coverage, dab, buildUp, before) {
			const [a, b, c] = buildUp ? nothingBehind : lineBehind(dab, before);
			const { picture } = dab;
			const level = picture && levelFor(picture, dab.radius);
			const axes = axesOf(dab, level ? level.side / (2 * dab.radius) : 1);
			const ink = dab.color === null ? 0 : inkOf(kernels, coverage);
			const up = buildUp ? 1 : 0;
			binsAround(bins, dab.x, dab.y, picture ? dab.radius * Math.SQRT2 : dab.radius, (bin, bx, by) => {
				// The bin's corner farthest ahead lies behind the line: all of it does.
				if (a * (a > 0 ? bx + BIN : bx) + b * (b > 0 ? by + BIN : by) < c - 1) return;
				const [texels, places, count] = recordsOf(kernels, bins, bin);
				if (!count) return;
				if (level)
					kernels.run.pictureRecords(
						texels,
						places,
						count,
						coverage.at,
						coverage.touched,
						bx - dab.x,
						by - dab.y,
						level.at,
						level.side,
						level.side / 2,
						pictureSlope(level.side, dab.edge),
						dab.strength * 65535,
						up,
						...axes,
						ink,
						dab.color ?? 0,
					);
				else
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
						up,
						...axes,
						ink,
						dab.color ?? 0,
					);
			});
		},
		warm(x, y, radius) {
			binsAround(bins, x, y, radius, (bin) => recordsOf(kernels, bins, bin));
		},
		around(_coverage, x, y, reach, visit) {
			binsAround(bins, x, y, reach * Math.SQRT2, (bin, bx, by) => {
				const [texels, places, count] = recordsOf(kernels, bins, bin);
				const words = kernels.heap.u32;
				for (let i = 0; i < count; i++) {
					const place = words[(places >> 2) + i] as number;
					const px = bx + (place & 0xffff) / PLACE_STEPS;
					const py = by + (place >>> 16) / PLACE_STEPS;
					if (Math.abs(px - x) <= reach && Math.abs(py - y) <= reach)
						visit((words[(texels >> 2) + i] as number) & INDEX_MASK, px, py);
				}
			});
		},
		placesOf: (tile) => placesOfTile(bins, tile),
	};
}
