import type { Kernels, Ptr } from '@eppu/kernels';
import { hasTexels, Kind, type Surface, type TileState, tileBytes, tileState, writeTexels } from '../surface/index.ts';
import type { PointTone } from '../tone/index.ts';
import { createToneMaps } from './maps.ts';
import { type BlendMode, modeNumber } from './modes.ts';

/** Layers that are blended among themselves. */
export interface StackGroup {
	readonly group: readonly StackLayer[];
	/** Blended on nothing and then laid as one; else its layers are blended with what lies below the group. */
	readonly isolated: boolean;
}

/** A change of what lies below, or of the base that it is clipped to: of its tones, or to texels that are made already. */
export interface StackAdjust {
	readonly adjust: PointTone | Surface;
}

/** A layer as the compositor sees it, bottom first in a stack. */
export interface StackLayer {
	readonly mode: BlendMode;
	/** 0..1 */
	readonly opacity: number;
	/** Shaped by the nearest unclipped layer below. */
	readonly clip: boolean;
	/** Its texels, one RGBA8 value (little-endian) everywhere, a group, or a change of tones. */
	readonly source: Surface | number | StackGroup | StackAdjust;
	readonly mask: Surface | null;
}

/** What lies under a layer, kept as an accumulator so that strokes on that layer do not make it again. */
export interface UnderCache {
	/** Index in the stack of the layer that is painted on, or of the base that it is clipped to. */
	readonly split: number;
	readonly tiles: Map<number, Ptr>;
	readonly limit: number;
}

const CODE = {
	end: 0,
	layer: 1,
	push: 2,
	pop: 3,
	load: 4,
	store: 5,
	first: 6,
	ground: 7,
	adjust: 8,
	pushCopy: 9,
	popMix: 10,
} as const;
const ATOP = 1;
const OPAQUE_BELOW = 2;
const ON_GROUND = 4;
/** Bytes of a tile's accumulators: four channels of 16 bits. */
export const ACC_BYTES = 32768;
/** Groups that may stand within each other. */
export const MOST_NESTED = 8;
/** Accumulators of a band that a program may stack up: a group takes three at the most. */
const STACK_BYTES = (3 * MOST_NESTED + 4) * 8192;
const SCRATCH = 512;
const OP_WORDS = 8;
const FULL = 32767;

/** Operations of one program at the most; a stack over this is refused at `compositeTile`. */
const OPS = 2048;
const TILE_BYTES = tileBytes('color');

interface Step {
	readonly layer: StackLayer;
	readonly index: number;
	/** Null for groups and changes. */
	readonly source: TileState | null;
	readonly group: readonly Step[] | null;
	readonly isolated: boolean;
	readonly adjust: PointTone | TileState | null;
	readonly mask: TileState | null;
	readonly clipped: Step[];
}

const sourceState = (source: Surface | number, tile: number): TileState =>
	typeof source !== 'number'
		? tileState(source, tile)
		: source >>> 24
			? { kind: Kind.uniform, data: source >>> 0 }
			: { kind: Kind.empty, data: 0 };

/** `base` says that others are clipped to it: a group is then blended as one, also where none of them shows. */
function stepOf(layer: StackLayer, index: number, tile: number, base: boolean): Step {
	const { source } = layer;
	const mask = layer.mask && tileState(layer.mask, tile);
	const plain = { layer, index, source: null, group: null, isolated: false, adjust: null, mask, clipped: [] };
	if (typeof source === 'number' || 'kinds' in source) return { ...plain, source: sourceState(source, tile) };
	if ('adjust' in source) {
		const { adjust } = source;
		return { ...plain, adjust: 'kinds' in adjust ? tileState(adjust, tile) : adjust };
	}
	return { ...plain, group: stepsOf(source.group, tile), isolated: source.isolated || base };
}

const shows = ({ source, group, mask, layer }: Step): boolean =>
	(!source || source.kind !== Kind.empty) &&
	(!group || group.length > 0) &&
	mask?.kind !== Kind.empty &&
	layer.opacity > 0;

/** Its alpha is whole in every texel of the tile, but for the layer's own opacity. */
const opaque = ({ source, mask }: Step): boolean =>
	(!mask || (mask.kind === Kind.uniform && mask.data === 255)) &&
	source !== null &&
	(source.kind === Kind.solid || (source.kind === Kind.uniform && source.data >>> 24 === 255));

/** Nothing below a step with this can be seen. */
const covers = (step: Step): boolean => step.layer.mode === 'normal' && step.layer.opacity >= 1 && opaque(step);

/** The steps that show in a tile, clipped layers under their base, from the last that covers all below it. */
function stepsOf(stack: readonly StackLayer[], tile: number): Step[] {
	const steps: Step[] = [];
	let base: Step | null = null;
	let free = false;
	stack.forEach((layer, index) => {
		const step = stepOf(layer, index, tile, stack[index + 1]?.clip === true);
		// A change of tones has no shape to clip to: what stands on it as clipped stands free.
		if (!layer.clip || index === 0 || free) {
			free = step.adjust !== null;
			base = shows(step) ? step : null;
			if (!base) return;
			if (covers(base)) steps.length = 0;
			steps.push(base);
		} else if (base && shows(step)) base.clipped.push(step);
	});
	return steps;
}

/** Runs layer stacks tile by tile. One compositor serves one thread. */
export interface Compositor {
	/** Composites tile `tile` of a stack to straight RGBA8 at `out` (16 KiB). */
	tile(stack: readonly StackLayer[], tile: number, out: Ptr, under?: UnderCache): void;
	/**
	 * Composites tile `tile` as it is before it is rounded to bytes, at `out` (32 KiB): of each eight texels the reds, the
	 * greens, the blues and the alphas, premultiplied, 32767 for one.
	 */
	fine(stack: readonly StackLayer[], tile: number, out: Ptr): void;
	/** Gives its memory back. */
	drop(): void;
}

/** A compositor with its own accumulators in the kernels' memory. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: the compositor owns its scratch memory: who uses it stands beside who frees it.
export function createCompositor(kernels: Kernels): Compositor {
	const { heap, run } = kernels;
	const maps = createToneMaps(kernels);
	const changedTile = heap.alloc(TILE_BYTES);
	const program = heap.alloc(OPS * 64);
	const constants = program + OPS * 32;
	const acc = heap.alloc(SCRATCH + STACK_BYTES) + SCRATCH;
	let ops = 0;
	let values = 0;

	/** Address and step of a colour tile; one value is repeated from a block of eight. */
	const colorPlace = (state: TileState): readonly [Ptr, number] => {
		if (hasTexels(state.kind)) return [state.data, 32];
		const at = constants + values++ * 32;
		heap.u32.fill(state.data, at >> 2, (at + 32) >> 2);
		return [at, 0];
	};
	const maskPlace = (state: TileState | null): readonly [Ptr, number] => {
		if (!state || (state.kind === Kind.uniform && state.data === 255)) return [0, 0];
		if (hasTexels(state.kind)) return [state.data, 8];
		const at = constants + values++ * 32;
		heap.u8.fill(state.data, at, at + 8);
		return [at, 0];
	};
	const emit = (
		code: number,
		mode = 0,
		source: Ptr = 0,
		step = 0,
		mask: Ptr = 0,
		maskStep = 0,
		opacity = 0,
		flags = 0,
	): void => {
		if (ops >= OPS) throw new RangeError('This sheet has more layers than can be shown at once (about 500).');
		const { u32 } = heap;
		let at = (program >> 2) + ops++ * OP_WORDS;
		u32[at++] = code;
		u32[at++] = mode;
		u32[at++] = source;
		u32[at++] = step;
		u32[at++] = mask;
		u32[at++] = maskStep;
		u32[at++] = Math.round(opacity * FULL);
		u32[at] = flags;
	};
	const emitLayer = ({ source, mask }: Step, code: number, mode: BlendMode, opacity: number, flags: number): void => {
		const [at, step] = colorPlace(source as TileState);
		const [maskAt, maskStep] = maskPlace(mask);
		emit(code, modeNumber(mode), at, step, maskAt, maskStep, opacity, flags);
	};
	/** What lies below is read back, changed and laid over itself within its own shape. */
	const emitAdjust = (step: Step, op: PointTone | TileState, mode: BlendMode, opacity: number, flags: number): void => {
		if ('kind' in op) {
			if (op.kind !== Kind.empty) emitLayer({ ...step, source: op }, CODE.layer, mode, opacity, flags | ATOP);
			return;
		}
		const map = maps.of(op);
		emit(CODE.adjust, map.kind, map.at, 0, changedTile);
		const [maskAt, maskStep] = maskPlace(step.mask);
		emit(CODE.layer, modeNumber(mode), changedTile, 32, maskAt, maskStep, opacity, flags | ATOP);
	};
	/** A step into an accumulator of its own that is clear so far, opacity and mode left for later. */
	const emitShape = (step: Step, level: number): void => {
		if (!step.group) return emitLayer(step, CODE.first, 'normal', 1, 0);
		emit(CODE.push);
		emitList(step.group, 0, step.group.length, null, level + 1);
		const [maskAt, maskStep] = maskPlace(step.mask);
		emit(CODE.pop, modeNumber('normal'), 0, 0, maskAt, maskStep, 1);
	};
	/** `below` are the flags that say what the step comes on; null is nothing at all. Returns those after it. */
	const emitStep = (step: Step, below: number | null, level: number): number | null => {
		const { layer, clipped, group, adjust } = step;
		if (clipped.length === 0) {
			if (adjust) {
				if (below !== null) emitAdjust(step, adjust, layer.mode, layer.opacity, below);
				return below;
			}
			if (group) return emitGroup(step, group, below, level);
			if (below !== null) {
				emitLayer(step, CODE.layer, layer.mode, layer.opacity, below);
				return below;
			}
			const whole = opaque(step) && layer.opacity >= 1;
			// The ground is kept for the lowest level alone.
			const lazily = whole && level === 0;
			emitLayer(step, lazily ? CODE.ground : CODE.first, 'normal', layer.opacity, 0);
			return whole ? OPAQUE_BELOW | (lazily ? ON_GROUND : 0) : 0;
		}
		emit(CODE.push);
		emitShape(step, level + 1);
		const inside = opaque(step) ? OPAQUE_BELOW : 0;
		for (const each of clipped) {
			const { mode, opacity } = each.layer;
			if (each.adjust) emitAdjust(each, each.adjust, mode, opacity, inside);
			else if (each.group) {
				emit(CODE.push);
				emitList(each.group, 0, each.group.length, null, level + 2);
				const [maskAt, maskStep] = maskPlace(each.mask);
				emit(CODE.pop, modeNumber(mode), 0, 0, maskAt, maskStep, opacity, ATOP);
			} else emitLayer(each, CODE.layer, mode, opacity, inside | ATOP);
		}
		emit(CODE.pop, modeNumber(layer.mode), 0, 0, 0, 0, layer.opacity, below ?? 0);
		return below ?? (opaque(step) && layer.opacity >= 1 ? OPAQUE_BELOW : 0);
	};
	const emitGroup = (step: Step, group: readonly Step[], below: number | null, level: number): number | null => {
		const { layer, mask, isolated } = step;
		const [maskAt, maskStep] = maskPlace(mask);
		if (!isolated && layer.opacity >= 1 && maskAt === 0) return emitList(group, 0, group.length, below, level);
		if (!isolated && below !== null) {
			emit(CODE.pushCopy);
			emitList(group, 0, group.length, below & ~ON_GROUND, level + 1);
			emit(CODE.popMix, 0, 0, 0, maskAt, maskStep, layer.opacity);
			return below;
		}
		emit(CODE.push);
		emitList(group, 0, group.length, null, level + 1);
		emit(CODE.pop, modeNumber(layer.mode), 0, 0, maskAt, maskStep, layer.opacity, below ?? 0);
		return below ?? 0;
	};
	/** Steps one after the other; what lies below each is told on to the next. */
	function emitList(
		steps: readonly Step[],
		from: number,
		to: number,
		start: number | null,
		level: number,
	): number | null {
		let below = start;
		for (let i = from; i < to; i++) below = emitStep(steps[i] as Step, below, level);
		return below;
	}

	return {
		drop() {
			heap.free(program, OPS * 64);
			heap.free(changedTile, TILE_BYTES);
			maps.drop();
			heap.free(acc - SCRATCH, SCRATCH + STACK_BYTES);
		},
		tile(stack, tile, out, under) {
			const steps = stepsOf(stack, tile);
			const only = steps[0];
			if (!only) {
				run.clear(out, tileBytes('color'));
				return;
			}
			if (
				steps.length === 1 &&
				only.source &&
				only.clipped.length === 0 &&
				only.layer.opacity >= 1 &&
				maskPlace(only.mask)[0] === 0
			) {
				// One plain layer over nothing is its own composite in every mode.
				values = 0;
				writeTexels(kernels, 'color', only.source, out);
				return;
			}
			ops = 0;
			values = 0;
			let first = 0;
			let below: number | null = null;
			if (under) {
				while (first < steps.length && (steps[first] as Step).index < under.split) first++;
				const kept = under.tiles.get(tile);
				if (first < 2) first = 0;
				else if (kept !== undefined) {
					emit(CODE.load, 0, kept);
					below = opaque(only) && only.layer.opacity >= 1 ? OPAQUE_BELOW : 0;
				} else {
					below = emitList(steps, 0, first, null, 0);
					if (under.tiles.size < under.limit) {
						const at = heap.alloc(ACC_BYTES);
						under.tiles.set(tile, at);
						emit(CODE.store, 0, at);
					}
				}
			}
			emitList(steps, first, steps.length, below, 0);
			emit(CODE.end);
			run.runTile(program, acc, out);
		},
		fine(stack, tile, out) {
			const steps = stepsOf(stack, tile);
			if (!steps.length) {
				run.clear(out, ACC_BYTES);
				return;
			}
			ops = 0;
			values = 0;
			emitList(steps, 0, steps.length, null, 0);
			emit(CODE.store, 0, out);
			emit(CODE.end);
			// Its bytes are not wanted; what a change of tones laid here is read by then.
			run.runTile(program, acc, changedTile);
		},
	};
}

/** Gives the accumulators of a cache back. */
export function dropUnder(kernels: Kernels, under: UnderCache): void {
	for (const at of under.tiles.values()) kernels.heap.free(at, ACC_BYTES);
	under.tiles.clear();
}
