import type { Kernels } from '@eppu/kernels';
import { deflateSync, inflateSync } from 'fflate';
import { type Doing, surfacesNamed } from '../document/index.ts';
import {
	dropRecord,
	emptyTile,
	hasTexels,
	recordBytes,
	type SurfaceId,
	settleTile,
	stateTexels,
	swapRecord,
	type TileRecord,
	type TileState,
	texelBytes,
	tileBytes,
} from '../surface/index.ts';
import { planesOf, texelsOf } from './press.ts';

/** One thing that can be undone: commands and tile changes that belong together, named in plain words. */
export interface Step {
	readonly words: string;
	readonly undo: readonly Doing[];
	readonly redo: readonly Doing[];
	readonly records: readonly TileRecord[];
	/** Steps of one drag share it and become one. */
	readonly gesture?: string;
}

/** A change whose texels were pressed together to save memory. */
export interface Pressed {
	readonly record: TileRecord;
	readonly tiles: Map<number, Uint8Array | Spilled>;
	/** Pressed as they are, not in planes: they come from an earlier visit. */
	readonly plain?: boolean;
}

/** Where pressed texels lie outside the memory. */
export interface Spilled {
	readonly at: number;
	readonly length: number;
}

/** A store outside the memory for steps of long ago: the browser's own files. */
export interface Spill {
	/** Puts bytes away; null where there is no room for them, and they stay in memory. */
	write(bytes: Uint8Array): Spilled | null;
	read(place: Spilled): Uint8Array;
	/** All that was put away is not wanted any more. */
	clear(): void;
}

/** How many of the latest steps keep their texels as they are, ready at once. */
const LOOSE_STEPS = 12;

/** So many bytes of steps stay in memory; older ones are put away where there is a place for them. */
const MOST_BYTES = 256 * 1024 * 1024;

/** Tiles pressed at once: strokes are heard in between. */
const TILES_AT_ONCE = 6;

export interface History {
	push(step: Step): void;
	/** The step to undo, its texels ready; it moves to the undone. */
	back(): Step | null;
	forth(): Step | null;
	readonly done: readonly Step[];
	readonly undone: readonly Step[];
	/** Presses a few tiles of old steps together, some ten ms of work; false when nothing is left to do. */
	tidy(): boolean;
	/** Where steps of long ago are put once there are too many bytes of them. */
	spillTo(spill: Spill, most?: number): void;
	/** Bytes kept for undo in memory, pressed ones as pressed. */
	bytes(): number;
	/** Steps of an earlier visit, oldest first, come before all others. */
	recall(steps: readonly { readonly step: Step; readonly pressed: readonly Pressed[] }[]): void;
	/** What a tile of a step was, with its texels outside the memory where it has any. */
	before(
		step: Step,
		record: TileRecord,
		index: number,
	): { readonly state: TileState; readonly texels: Uint8Array | null };
	/** Forgets what was undone. */
	cut(): void;
	clear(): void;
}

// biome-ignore lint/complexity/noExcessiveLinesPerFunction: two stacks and what is pressed of them: short functions over one state.
export function createHistory(
	kernels: Kernels,
	dropped: (surfaces: ReadonlySet<SurfaceId>) => void = () => {},
): History {
	const { heap } = kernels;
	const done: Step[] = [];
	const undone: Step[] = [];
	const pressed = new Map<Step, Pressed[]>();
	let spill: Spill | null = null;
	let most = MOST_BYTES;
	const planes = (record: TileRecord): number => texelBytes(record.surface.format);

	/** Presses up to `most` of a step's tiles; returns how many were left to press. */
	const press = (step: Step, most: number): number => {
		let all = pressed.get(step);
		if (!all) pressed.set(step, (all = step.records.map((record) => ({ record, tiles: new Map() }))));
		let done_ = 0;
		for (const { record, tiles } of all)
			for (const [index, state] of record.tiles) {
				if (!hasTexels(state.kind) || tiles.has(index)) continue;
				if (done_++ === most) return done_;
				const bytes = tileBytes(record.surface.format);
				const texels = planesOf(heap.u8.slice(state.data, state.data + bytes), planes(record));
				tiles.set(index, deflateSync(texels, { level: 1 }));
				heap.free(state.data, bytes);
				record.tiles.set(index, { kind: state.kind, data: 0 });
			}
		return done_;
	};
	const unpressed = ({ record, plain }: Pressed, bytes: Uint8Array | Spilled): Uint8Array => {
		const texels = inflateSync(bytes instanceof Uint8Array ? bytes : (spill as Spill).read(bytes));
		return plain ? texels : texelsOf(texels, planes(record));
	};
	const loosen = (step: Step): void => {
		for (const each of pressed.get(step) ?? [])
			for (const [index, bytes] of each.tiles) {
				const texels = unpressed(each, bytes);
				const at = heap.alloc(texels.length);
				heap.u8.set(texels, at);
				each.record.tiles.set(index, settleTile(kernels, each.record.surface.format, at));
			}
		pressed.delete(step);
	};
	const drop = (steps: Step[]): void => {
		const surfaces = new Set<SurfaceId>();
		for (const step of steps) {
			for (const { record, tiles } of pressed.get(step) ?? [])
				for (const index of tiles.keys()) record.tiles.delete(index);
			pressed.delete(step);
			for (const record of step.records) dropRecord(heap, record);
			for (const command of [...step.undo, ...step.redo]) for (const id of surfacesNamed(command)) surfaces.add(id);
		}
		steps.length = 0;
		if (surfaces.size) dropped(surfaces);
	};
	/** Puts some tiles of the oldest steps away; false where all that stays may stay. */
	const putAway = (): boolean => {
		if (!spill || history.bytes() <= most) return false;
		let left = TILES_AT_ONCE * 8;
		for (const step of done)
			for (const { tiles } of pressed.get(step) ?? [])
				for (const [index, bytes] of tiles) {
					if (!(bytes instanceof Uint8Array)) continue;
					const place = spill.write(bytes);
					if (!place) return false;
					tiles.set(index, place);
					if (--left === 0) return true;
				}
		return false;
	};
	const turn = (from: Step[], to: Step[]): Step | null => {
		const step = from.pop();
		if (!step) return null;
		if (pressed.has(step)) loosen(step);
		for (const record of step.records) swapRecord(record);
		to.push(step);
		return step;
	};

	const history: History = {
		done,
		undone,
		push(step) {
			const gone = undone.splice(0);
			const last = done.at(-1);
			if (step.gesture && last?.gesture === step.gesture && !last.records.length)
				done[done.length - 1] = { ...step, undo: last.undo };
			else done.push(step);
			// Only now: the new step may need surfaces that the forgotten ones name too.
			drop(gone);
		},
		back: () => turn(done, undone),
		forth: () => turn(undone, done),
		tidy() {
			for (const step of done.slice(0, -LOOSE_STEPS))
				if (step.records.length && press(step, TILES_AT_ONCE) > 0) return true;
			return putAway();
		},
		bytes() {
			let sum = 0;
			for (const step of [...done, ...undone]) {
				for (const record of step.records) sum += recordBytes(record);
				for (const { record, tiles } of pressed.get(step) ?? [])
					for (const bytes of tiles.values())
						sum += (bytes instanceof Uint8Array ? bytes.length : 0) - tileBytes(record.surface.format);
			}
			return sum;
		},
		recall(steps) {
			done.unshift(...steps.map(({ step }) => step));
			for (const each of steps) pressed.set(each.step, [...each.pressed]);
		},
		before(step, record, index) {
			const state = record.tiles.get(index) ?? emptyTile;
			if (!hasTexels(state.kind)) return { state, texels: null };
			const each = pressed.get(step)?.find((one) => one.record === record);
			const bytes = each?.tiles.get(index);
			const texels = each && bytes ? unpressed(each, bytes) : stateTexels(heap, record.surface.format, state);
			return { state, texels };
		},
		cut: () => drop(undone),
		spillTo(to, limit = MOST_BYTES) {
			spill = to;
			most = limit;
		},
		clear() {
			drop(done);
			drop(undone);
			spill?.clear();
		},
	};
	return history;
}
