import type { Kernels, Ptr } from '@eppu/kernels';
import { type Coverage, clearCoverage, coverageTile, type Dab, type Target, takeTouched } from '../projection/index.ts';
import {
	createRecord,
	freshTexels,
	hasTexels,
	putTexels,
	type Surface,
	TILE_TEXELS,
	takeBefore,
} from '../surface/index.ts';
import { createDabs } from './dabs.ts';
import { createPath, type Point } from './path.ts';
import { ROPE, type Stroke, type StrokeMeans } from './stroke.ts';

/** A coat of paint as a scrape finds it: its mask, how thick it lies and how softly its rim breaks, 0..1. */
export interface ScrapedCoat {
	readonly mask: Surface;
	readonly depth: number;
	readonly falloff: number;
}

const CURVE_BYTES = 1025 * 2;

/** How much of a coat is gone where a scrape is so deep: none above its top, all at its bottom, the rim breaking between. */
export function coatGone(depth: number, top: number, thick: number, falloff: number): number {
	// A sharp rim breaks within a tenth of the coat; a soft one over all of it.
	const from = top + thick * 0.12;
	const to = from + thick * (0.1 + 0.78 * falloff);
	const t = Math.min(1, Math.max(0, (depth - from) / (to - from)));
	return t * t * (3 - 2 * t);
}

/** The coverage, in shares of the tip's strength, from which a mending stroke does all that it does. */
const MENDED = 0.06;

/**
 * How much of a coat comes back where a mending stroke of a strength has a coverage. All coats come back together and as
 * far out as a scrape of the same tip takes any away, so that a mended scrape leaves no rings.
 */
export function coatMended(coverage: number, strength: number): number {
	const t = Math.min(1, coverage / (MENDED * Math.max(0.01, strength)));
	return strength * t * t * (3 - 2 * t);
}

/**
 * A stroke through several coats, topmost first: the deeper the coverage, the more coats are cut through, so that each
 * shows as a ring inside the one above it. Mending brings all of them back.
 */
export function beginScrape(
	kernels: Kernels,
	coats: readonly ScrapedCoat[],
	coverage: Coverage,
	targets: readonly Target[],
	means: StrokeMeans,
	mend: boolean,
): Stroke {
	const { heap, run } = kernels;
	const { tip } = means;
	const path = createPath(tip.steady > 0 ? tip.steady * ROPE * Math.max(8, tip.size) : 0);
	const dabs = createDabs(tip, means.picture, means.seed, means.color);
	const records = coats.map(({ mask }) => createRecord(mask));
	const constant = heap.alloc(16);
	const gated = heap.alloc(TILE_TEXELS * 2);
	const curved = heap.alloc(TILE_TEXELS * 2);
	const gates = new Map<number, Ptr>();
	let top = 0;
	const curves = coats.map(({ depth, falloff }) => {
		const at = heap.alloc(CURVE_BYTES);
		for (let i = 0; i <= 1024; i++) {
			const c = i / 1024;
			const changed = mend ? coatMended(c, tip.strength) : coatGone(c, top, depth, falloff);
			heap.u16[(at >> 1) + i] = c === 0 ? 0 : Math.round(65535 * changed);
		}
		top += depth;
		return at;
	});
	let open = true;
	let before: Dab | undefined;

	const gateOf = (tile: number): Ptr => {
		if (!means.over) return 0;
		let at = gates.get(tile);
		if (at === undefined) {
			const made = means.over(tile);
			at = made ? heap.alloc(TILE_TEXELS) : 0;
			if (made) heap.u8.set(made.gate, at);
			gates.set(tile, at);
		}
		return at;
	};
	const layTile = (tile: number): void => {
		let cov = coverageTile(coverage, tile);
		const gate = gateOf(tile);
		if (gate) {
			run.gateCoverage(cov, gate, gated);
			cov = gated;
		}
		coats.forEach((_, n) => {
			const record = records[n] as (typeof records)[number];
			const state = takeBefore(record, tile);
			const out = freshTexels(heap, record, tile);
			run.curveCoverage(cov, curves[n] as Ptr, curved);
			const value = mend ? 255 : 0;
			if (hasTexels(state.kind)) run.layMask(state.data, 8, curved, out, value);
			else {
				heap.u8.fill(state.data, constant, constant + 8);
				run.layMask(constant, 0, curved, out, value);
			}
			putTexels(kernels, record, tile, out);
		});
	};
	const set = (list: readonly Dab[]): number[] => {
		for (const dab of list) {
			for (const target of targets) target.dab(coverage, dab, tip.buildUp, before);
			before = dab;
		}
		const tiles = takeTouched(kernels, coverage);
		for (const tile of tiles) layTile(tile);
		return tiles;
	};
	const line = (points: readonly Point[]): number[] => set(dabs.along(points));
	const close = (): void => {
		open = false;
		clearCoverage(kernels, coverage, records[0]?.tiles.keys() ?? []);
		heap.free(constant, 16);
		heap.free(gated, TILE_TEXELS * 2);
		heap.free(curved, TILE_TEXELS * 2);
		for (const at of curves) heap.free(at, CURVE_BYTES);
		for (const at of gates.values()) if (at) heap.free(at, TILE_TEXELS);
	};
	return {
		records,
		extend(samples) {
			if (!open) return [];
			return line(path.extend(samples));
		},
		end() {
			if (!open) return [];
			const tiles = [...line(path.end()), ...set(dabs.end())];
			close();
			return [...new Set(tiles)];
		},
		cancel() {
			if (!open) return [];
			close();
			return [...(records[0]?.tiles.keys() ?? [])];
		},
	};
}
