import type { Kernels, Ptr } from '@eppu/kernels';
import { hasTexels, Kind, type Surface, type TileState, tileBytes, tileState, writeTexels } from '../surface/index.ts';
import { type BlendMode, modeNumber } from './modes.ts';

/** A layer as the compositor sees it, bottom first in a stack. */
export interface StackLayer {
	readonly mode: BlendMode;
	/** 0..1 */
	readonly opacity: number;
	/** Shaped by the nearest unclipped layer below. */
	readonly clip: boolean;
	/** Its texels, or one RGBA8 value (little-endian) everywhere. */
	readonly source: Surface | number;
	readonly mask: Surface | null;
}

/** What lies under a layer, kept as an accumulator so that strokes on that layer do not make it again. */
export interface UnderCache {
	/** Index in the stack of the layer that is painted on, or of the base that it is clipped to. */
	readonly split: number;
	readonly tiles: Map<number, Ptr>;
	readonly limit: number;
}

const CODE = { end: 0, layer: 1, push: 2, pop: 3, load: 4, store: 5, first: 6, ground: 7 } as const;
const ATOP = 1;
const OPAQUE_BELOW = 2;
const ON_GROUND = 4;
const ACC_BYTES = 32768;
/** Accumulators of a band that a program may stack up. */
const STACK_BYTES = 8 * 8192;
const SCRATCH = 512;
const OP_WORDS = 8;
const FULL = 32767;

/** Operations of one program at the most; a stack over this is refused at `compositeTile`. */
const OPS = 1024;

interface Step {
	readonly layer: StackLayer;
	readonly index: number;
	readonly source: TileState;
	readonly mask: TileState | null;
	readonly clipped: Step[];
}

const sourceState = (source: Surface | number, tile: number): TileState =>
	typeof source !== 'number'
		? tileState(source, tile)
		: source >>> 24
			? { kind: Kind.uniform, data: source >>> 0 }
			: { kind: Kind.empty, data: 0 };

const stepOf = (layer: StackLayer, index: number, tile: number): Step => ({
	layer,
	index,
	source: sourceState(layer.source, tile),
	mask: layer.mask && tileState(layer.mask, tile),
	clipped: [],
});

const shows = ({ source, mask, layer }: Step): boolean =>
	source.kind !== Kind.empty && mask?.kind !== Kind.empty && layer.opacity > 0;

/** Its alpha is whole in every texel of the tile, but for the layer's own opacity. */
const opaque = ({ source, mask }: Step): boolean =>
	(!mask || (mask.kind === Kind.uniform && mask.data === 255)) &&
	(source.kind === Kind.solid || (source.kind === Kind.uniform && source.data >>> 24 === 255));

/** Nothing below a step with this can be seen. */
const covers = (step: Step): boolean => step.layer.mode === 'normal' && step.layer.opacity >= 1 && opaque(step);

/** The steps that show in a tile, clipped layers under their base, from the last that covers all below it. */
function stepsOf(stack: readonly StackLayer[], tile: number): Step[] {
	const steps: Step[] = [];
	let base: Step | null = null;
	stack.forEach((layer, index) => {
		const step = stepOf(layer, index, tile);
		if (!layer.clip || index === 0) {
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
	/** Gives its memory back. */
	drop(): void;
}

/** A compositor with its own accumulators in the kernels' memory. */
export function createCompositor(kernels: Kernels): Compositor {
	const { heap, run } = kernels;
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
		const [at, step] = colorPlace(source);
		const [maskAt, maskStep] = maskPlace(mask);
		emit(code, modeNumber(mode), at, step, maskAt, maskStep, opacity, flags);
	};
	/** `below` are the flags that say what the step comes on; null is nothing at all. */
	const emitStep = (step: Step, below: number | null): void => {
		const { layer } = step;
		if (step.clipped.length === 0) {
			if (below !== null) return emitLayer(step, CODE.layer, layer.mode, layer.opacity, below);
			return emitLayer(step, opaque(step) && layer.opacity >= 1 ? CODE.ground : CODE.first, 'normal', layer.opacity, 0);
		}
		emit(CODE.push);
		emitLayer(step, CODE.first, 'normal', 1, 0);
		const inside = opaque(step) ? ATOP | OPAQUE_BELOW : ATOP;
		for (const each of step.clipped) emitLayer(each, CODE.layer, each.layer.mode, each.layer.opacity, inside);
		emit(CODE.pop, modeNumber(layer.mode), 0, 0, 0, 0, layer.opacity, below ?? 0);
	};

	return {
		drop() {
			heap.free(program, OPS * 64);
			heap.free(acc - SCRATCH, SCRATCH + STACK_BYTES);
		},
		tile(stack, tile, out, under) {
			const steps = stepsOf(stack, tile);
			const only = steps[0];
			if (!only) {
				run.clear(out, tileBytes('color'));
				return;
			}
			if (steps.length === 1 && only.clipped.length === 0 && only.layer.opacity >= 1 && maskPlace(only.mask)[0] === 0) {
				// One plain layer over nothing is its own composite in every mode.
				values = 0;
				writeTexels(kernels, 'color', only.source, out);
				return;
			}
			ops = 0;
			values = 0;
			let first = 0;
			const solid = opaque(only) && only.layer.opacity >= 1 ? OPAQUE_BELOW : 0;
			let lazily = solid && only.clipped.length === 0 ? ON_GROUND : 0;
			const emitSteps = (from: number, to: number): void => {
				for (let i = from; i < to; i++) emitStep(steps[i] as Step, i === 0 ? null : solid | lazily);
			};
			if (under) {
				while (first < steps.length && (steps[first] as Step).index < under.split) first++;
				const kept = under.tiles.get(tile);
				if (first < 2) first = 0;
				else if (kept !== undefined) {
					emit(CODE.load, 0, kept);
					lazily = 0;
				} else {
					emitSteps(0, first);
					if (under.tiles.size < under.limit) {
						const at = heap.alloc(ACC_BYTES);
						under.tiles.set(tile, at);
						emit(CODE.store, 0, at);
					}
				}
			}
			emitSteps(first, steps.length);
			emit(CODE.end);
			run.runTile(program, acc, out);
		},
	};
}

/** Gives the accumulators of a cache back. */
export function dropUnder(kernels: Kernels, under: UnderCache): void {
	for (const at of under.tiles.values()) kernels.heap.free(at, ACC_BYTES);
	under.tiles.clear();
}
