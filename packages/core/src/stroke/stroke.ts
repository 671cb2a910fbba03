import type { Kernels, Ptr } from '@eppu/kernels';
import type { SeamReader } from '../atlas/index.ts';
import { type Hex, luma, rgbOfHex, type ToneTool } from '../color/index.ts';
import { hardenCoverage, type PixelColors } from '../pixel/index.ts';
import {
	type Coverage,
	clearCoverage,
	coverageTile,
	type Dab,
	inkOf,
	type Target,
	type TipPicture,
	takeTouched,
} from '../projection/index.ts';
import {
	createRecord,
	freshTexels,
	hasTexels,
	Kind,
	putTexels,
	type Surface,
	setTileState,
	TILE_TEXELS,
	type TileRecord,
	type TileState,
	takeBefore,
	tileBytes,
	tileState,
} from '../surface/index.ts';
import { type Change, softChange, stepChange, toneChange } from './change.ts';
import { createDabs } from './dabs.ts';
import { createPath, type Point, type Sample } from './path.ts';
import { createPencil, type PencilWay } from './pencil.ts';
import { createSmear } from './smear.ts';
import type { StencilTile } from './stencil.ts';
import type { Tip } from './tip.ts';

/** What the coverage does to the layer. */
export type Tool = 'draw' | 'wipe' | 'soften' | 'smear' | 'scrape' | 'mend' | ToneTool;

export interface StrokeMeans {
	readonly tool: Tool;
	readonly tip: Tip;
	/** The tone of the tip; null for a round one. */
	readonly picture: TipPicture | null;
	/** What is laid; on a mask its lightness counts. */
	readonly color: Hex;
	/** Rules what chance does. */
	readonly seed: number;
	/** How far a tone tool goes, -1..1. */
	readonly amount: number;
	/** The layer keeps its alpha as it is. */
	readonly lockAlpha: boolean;
	/** What a tile's texels let through, and colours to lay instead of `color`; null where all is free. */
	readonly over: ((tile: number) => StencilTile | null) | null;
	/** What lies over the seams, for tools that read neighbours. */
	readonly seams: SeamReader | null;
	/** Dabs set at once instead of a line. */
	readonly placed?: readonly Dab[];
	/** Whole texels are covered or not at all, and tones go by the steps of ramps; null on what takes soft edges. */
	readonly hard?: PixelColors | null;
	/** Texels are drawn instead of dabs. */
	readonly pencil?: PencilWay | null;
}

/** A stroke being made. Each step returns the tiles it changed; live preview and result are this one path. */
export interface Stroke {
	extend(samples: readonly Sample[]): number[];
	/** Finishes the line; `records` are then the undo step. */
	end(): number[];
	/** Takes everything back. */
	cancel(): number[];
	readonly records: readonly TileRecord[];
}

/** The rope by which a wholly steadied tip trails the pen, in tip widths. */
export const ROPE = 1.5;

const mapTools = ['lighten', 'darken', 'contrast', 'saturate', 'hue'];
const isToneTool = (tool: Tool): tool is ToneTool => mapTools.includes(tool);

const CURVE_BYTES = 1025 * 2;

/** Coverage of a wet stroke: full where a soft edge is a fifth to a third covered, paler where it is more. */
function wetCurve({ heap }: Kernels, { wet, strength }: Tip): Ptr {
	const at = heap.alloc(CURVE_BYTES);
	const step = (a: number, b: number, v: number): number => {
		const t = Math.min(1, Math.max(0, (v - a) / (b - a)));
		return t * t * (3 - 2 * t);
	};
	for (let i = 0; i <= 1024; i++) {
		const c = i / 1024 / Math.max(0.01, strength);
		const rim = step(0.04, 0.24, c) * (1 - wet * step(0.3, 0.72, c));
		heap.u16[(at >> 1) + i] = Math.round(65535 * strength * rim);
	}
	return at;
}

/** What a tone tool does to a mask, which has tones alone: saturating parts them further, a turn of hue moves them up or down. */
function maskChange(kernels: Kernels, surface: Surface, tool: Tool, amount: number): Change | null {
	if (tool === 'contrast' || tool === 'saturate') return toneChange(kernels, surface, 'contrast', amount);
	if (tool === 'hue') return toneChange(kernels, surface, amount < 0 ? 'darken' : 'lighten', Math.abs(amount));
	return null;
}

/** A mask's texels led towards greys (RGBA8 at `aim`) by a coverage of 16 bits. */
function mixMask({ u8, u16 }: Kernels['heap'], state: TileState, cov: Ptr, aim: Ptr, out: Ptr): void {
	for (let i = 0; i < TILE_TEXELS; i++) {
		const was = hasTexels(state.kind) ? (u8[state.data + i] as number) : state.data;
		const share = (u16[(cov >> 1) + i] as number) / 65535;
		u8[out + i] = Math.round(was + ((u8[aim + i * 4] as number) - was) * share);
	}
}

/**
 * Begins a stroke on a surface (a layer's colour or a mask) through its targets: the brush's own, and its mirror
 * images. The coverage must be clear; it is clear again after `end` or `cancel`. Every tile is laid anew from its state
 * before the stroke and the whole stroke's coverage, so that crossing itself does not round twice; only smearing goes
 * dab by dab.
 */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: a stroke is one state from begin to end, and its memory is freed where it is taken.
export function beginStroke(
	kernels: Kernels,
	surface: Surface,
	coverage: Coverage,
	targets: readonly Target[],
	means: StrokeMeans,
): Stroke {
	const { heap, run } = kernels;
	const { tool, tip } = means;
	const path = createPath(tip.steady > 0 ? tip.steady * ROPE * Math.max(8, tip.size) : 0);
	const dabs = createDabs(tip, means.picture, means.seed, means.color);
	const record = createRecord(surface);
	const [red, green, blue] = rgbOfHex(means.color);
	const light = Math.round(luma(red, green, blue));
	const constant = heap.alloc(64);
	const gated = means.over || tip.wet > 0 || means.hard ? heap.alloc(TILE_TEXELS * 2) : 0;
	const curve = tip.wet > 0 ? wetCurve(kernels, tip) : 0;
	const overs = new Map<number, { readonly gate: Ptr; readonly ink: Ptr } | null>();
	const changes = new Map<number, Ptr>();
	let open = true;
	let before: Dab | undefined;

	const stateBefore = (tile: number): TileState => record.tiles.get(tile) ?? tileState(surface, tile);
	const change: Change | null =
		means.hard && surface.format === 'color'
			? stepChange(kernels, surface, tool, means.hard)
			: tool === 'soften'
				? softChange(kernels, surface, tip.size / 4, means.seams)
				: surface.format === 'mask'
					? maskChange(kernels, surface, tool, means.amount)
					: isToneTool(tool)
						? toneChange(kernels, surface, tool, means.amount)
						: null;

	const overOf = (tile: number) => {
		if (!means.over) return null;
		let found = overs.get(tile);
		if (found === undefined) {
			const made = means.over(tile);
			found = made && { gate: heap.alloc(TILE_TEXELS), ink: made.ink ? heap.alloc(tileBytes('color')) : 0 };
			if (found && made) {
				heap.u8.set(made.gate, found.gate);
				if (made.ink) heap.u8.set(made.ink, found.ink);
			}
			overs.set(tile, found);
		}
		return found;
	};
	const changeOf = (tile: number): Ptr => {
		let at = changes.get(tile);
		if (at === undefined) {
			at = heap.alloc(tileBytes('color'));
			change?.(tile, stateBefore, at);
			changes.set(tile, at);
		}
		return at;
	};
	const jitters = tip.jitter.hue > 0 || tip.jitter.lightness > 0 || tip.jitter.saturation > 0;
	const ownInk = tool === 'draw' && (jitters || means.pencil?.pencil.mixing?.between) ? inkOf(kernels, coverage) : 0;

	const beforePlace = (state: TileState): readonly [Ptr, 0 | 32] => {
		if (hasTexels(state.kind)) return [state.data, 32];
		heap.u32.fill(state.kind === Kind.uniform ? state.data : 0, constant >> 2, (constant + 32) >> 2);
		return [constant, 0];
	};
	const layTile = (tile: number): void => {
		// The target of a change reads neighbours as they were: before this tile is taken.
		const aim = change ? changeOf(tile) : 0;
		const over = overOf(tile);
		const state = takeBefore(record, tile);
		const out = freshTexels(heap, record, tile);
		let cov = coverageTile(coverage, tile);
		if (curve) {
			run.curveCoverage(cov, curve, gated);
			cov = gated;
		}
		if (over) {
			run.gateCoverage(cov, over.gate, gated);
			cov = gated;
		}
		if (means.hard) {
			hardenCoverage(heap, cov, gated);
			cov = gated;
		}
		const lock = means.lockAlpha ? 1 : 0;
		if (surface.format === 'mask' && change) mixMask(heap, state, cov, aim, out);
		else if (surface.format === 'mask') {
			const value = tool === 'wipe' || tool === 'darken' ? 0 : tool === 'lighten' ? 255 : light;
			if (hasTexels(state.kind)) run.layMask(state.data, 8, cov, out, value);
			else {
				heap.u8.fill(state.data, constant, constant + 8);
				run.layMask(constant, 0, cov, out, value);
			}
		} else {
			const [at, step] = beforePlace(state);
			if (tool === 'wipe') run.wipeColor(at, step, cov, out);
			else if (change) run.mixColor(at, step, cov, aim, out, lock);
			else if (over?.ink) run.layInk(at, step, cov, over.ink, out, lock);
			else if (ownInk) run.layInk(at, step, cov, ownInk + tile * TILE_TEXELS * 4, out, lock);
			else run.layColor(at, step, cov, out, red, green, blue, lock);
		}
		// Paint on opaque paint stays opaque; anything else is looked at.
		if (state.kind === Kind.solid && tool !== 'wipe') setTileState(surface, tile, { kind: Kind.solid, data: out });
		else putTexels(kernels, record, tile, out);
	};

	const smear =
		tool === 'smear'
			? createSmear(kernels, surface, coverage, targets, record, means.lockAlpha, (tile) => overOf(tile)?.gate ?? 0)
			: null;
	const set = (list: readonly Dab[]): number[] => {
		if (smear) return [...new Set(list.flatMap((dab) => smear.dab(dab)))];
		for (const dab of list) {
			for (const target of targets) target.dab(coverage, dab, tip.buildUp, before);
			before = dab;
		}
		const tiles = takeTouched(kernels, coverage);
		for (const tile of tiles) layTile(tile);
		return tiles;
	};
	const line = (points: readonly Point[]): number[] => set(dabs.along(points));
	const pencil = means.pencil ? createPencil(kernels, coverage, means.pencil, means.color, ownInk) : null;
	const drawn = (draw: () => void): number[] => {
		draw();
		const tiles = takeTouched(kernels, coverage);
		for (const tile of tiles) layTile(tile);
		return tiles;
	};
	const close = (): void => {
		open = false;
		clearCoverage(kernels, coverage, record.tiles.keys());
		heap.free(constant, 64);
		if (gated) heap.free(gated, TILE_TEXELS * 2);
		if (curve) heap.free(curve, CURVE_BYTES);
		smear?.drop();
		for (const over of overs.values()) {
			if (!over) continue;
			heap.free(over.gate, TILE_TEXELS);
			if (over.ink) heap.free(over.ink, tileBytes('color'));
		}
		for (const at of changes.values()) heap.free(at, tileBytes('color'));
	};

	return {
		records: [record],
		extend(samples) {
			if (!open) return [];
			if (pencil) return drawn(() => pencil.extend(samples));
			if (means.placed) return samples.length && !before ? set(means.placed) : [];
			return line(path.extend(samples));
		},
		end() {
			if (!open) return [];
			const tiles = pencil ? drawn(() => pencil.end()) : means.placed ? [] : [...line(path.end()), ...set(dabs.end())];
			if (smear)
				for (const tile of record.tiles.keys()) {
					// A tile that turns out to be plain is composited another way, and may round otherwise.
					putTexels(kernels, record, tile, tileState(surface, tile).data);
					tiles.push(tile);
				}
			close();
			return [...new Set(tiles)];
		},
		cancel() {
			if (!open) return [];
			close();
			return [...record.tiles.keys()];
		},
	};
}
