import type { Kernels, Ptr } from '@eppu/kernels';
import { type Hex, rgbOfHex } from '../color/index.ts';
import {
	createRecord,
	freshTexels,
	hasTexels,
	Kind,
	putTexels,
	type Surface,
	setTileState,
	type TileRecord,
	type TileState,
	takeBefore,
} from '../surface/index.ts';
import { type Coverage, clearCoverage, coverageTile, type Dab, type Target, takeTouched } from '../target/index.ts';
import { createDabs } from './dabs.ts';
import { createPath, type Sample } from './path.ts';
import type { Tip } from './tip.ts';

/** What the coverage does to the layer. */
export type Tool = 'draw' | 'wipe';

export interface StrokeMeans {
	readonly tool: Tool;
	readonly tip: Tip;
	/** What is laid; on a mask its lightness counts. */
	readonly color: Hex;
	/** The layer keeps its alpha as it is. */
	readonly lockAlpha: boolean;
}

/** A stroke being made. Each step returns the tiles it changed; live preview and result are this one path. */
export interface Stroke {
	extend(samples: readonly Sample[]): number[];
	/** Finishes the line; `record` is then the undo step. */
	end(): number[];
	/** Takes everything back. */
	cancel(): number[];
	readonly record: TileRecord;
}

/**
 * Begins a stroke on a surface (a layer's colour or a mask). The coverage must be clear; it is clear again after
 * `end` or `cancel`. Every tile is laid anew from its state before the stroke and the whole stroke's coverage, so
 * that crossing itself does not round twice.
 */
export function beginStroke(
	kernels: Kernels,
	surface: Surface,
	coverage: Coverage,
	target: Target,
	means: StrokeMeans,
): Stroke {
	const { heap, run } = kernels;
	const path = createPath();
	const dabs = createDabs(means.tip);
	const record = createRecord(surface);
	const [red, green, blue] = rgbOfHex(means.color);
	const light = Math.round(0.3 * red + 0.59 * green + 0.11 * blue);
	const constant = heap.alloc(64);
	let open = true;
	let before: Dab | undefined;

	const beforePlace = (state: TileState): readonly [Ptr, 0 | 32] => {
		if (hasTexels(state.kind)) return [state.data, 32];
		heap.u32.fill(state.kind === Kind.uniform ? state.data : 0, constant >> 2, (constant + 32) >> 2);
		return [constant, 0];
	};
	const layTile = (tile: number): void => {
		const before = takeBefore(record, tile);
		const out = freshTexels(heap, record, tile);
		const cov = coverageTile(coverage, tile);
		if (surface.format === 'mask') {
			const value = means.tool === 'wipe' ? 0 : light;
			if (hasTexels(before.kind)) run.layMask(before.data, 8, cov, out, value);
			else {
				heap.u8.fill(before.data, constant, constant + 8);
				run.layMask(constant, 0, cov, out, value);
			}
		} else {
			const [at, step] = beforePlace(before);
			if (means.tool === 'wipe') run.wipeColor(at, step, cov, out);
			else run.layColor(at, step, cov, out, red, green, blue, means.lockAlpha ? 1 : 0);
		}
		// Paint on opaque paint stays opaque; anything else is looked at.
		if (before.kind === Kind.solid && means.tool === 'draw')
			setTileState(surface, tile, { kind: Kind.solid, data: out });
		else putTexels(kernels, record, tile, out);
	};
	const set = (points: readonly Sample[]): number[] => {
		for (const dab of dabs.along(points)) {
			target.dab(coverage, dab, means.tip.buildUp, before);
			before = dab;
		}
		const tiles = takeTouched(kernels, coverage);
		for (const tile of tiles) layTile(tile);
		return tiles;
	};
	const close = (): void => {
		open = false;
		clearCoverage(kernels, coverage, record.tiles.keys());
		heap.free(constant, 64);
	};

	return {
		record,
		extend: (samples) => (open ? set(path.extend(samples)) : []),
		end() {
			if (!open) return [];
			const tiles = set(path.end());
			close();
			return tiles;
		},
		cancel() {
			if (!open) return [];
			close();
			return [...record.tiles.keys()];
		},
	};
}
