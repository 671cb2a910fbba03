import type { Id, Sheet } from '@eppu/core/document';
import type { Dirty, Engine } from '@eppu/core/engine';
import type { Pool } from '@eppu/core/jobs';
import { TILE, tilesFrom } from '@eppu/core/surface';
import type { FromStudio } from '../studio/protocol.ts';

const TILE_BYTES = TILE * TILE * 4;
/** Tiles in a patch at the most, and how long one slice of work may take: strokes are heard between slices. */
const BATCH = 48;
const SLICE_MS = 8;
/** Fewer tiles are made sooner than they are given over. */
const LEAST_OVER = 12;
/** Patches that the page has not taken yet, at most: what comes sooner than it draws would stop the page. */
const MOST_OUT = 8;
/** The same while the hand strokes: what it lays waits behind them. */
const MOST_BESIDE_HAND = 2;

/** Composites dirty tiles in slices and sends them as patches; a stroke's tiles go at once. */
export interface Pump {
	add(dirty: Dirty): void;
	/** All of a sheet, from a texel outwards. */
	addAll(sheet: Sheet, x: number, y: number): void;
	addNow(dirty: Dirty): void;
	/** Says that all is shown, if it is and has not been said. */
	rest(): void;
	/** The page has one patch more in its picture. */
	taken(): void;
	/** Something is still to be shown, or to be taken by the page. */
	readonly busy: boolean;
	clear(): void;
}

// biome-ignore lint/complexity/noExcessiveLinesPerFunction: what is due, what is being made and what was told are one state.
export function createPump(
	tell: (message: FromStudio, transfer: Transferable[]) => void,
	engine: () => Engine | null,
	pool: () => Pool | null,
): Pump {
	const due = new Map<Id, Set<number>>();
	/** Jobs that are being made for the tiles of each sheet, the latest of each: older ones are not shown any more. */
	const flying = new Map<string, number>();
	const turn = new MessageChannel();
	let running = false;
	let told = true;
	let jobs = 0;
	let out = 0;
	const keyOf = (sheet: Id, tile: number): string => `${sheet} ${tile}`;
	const most = (): number => (engine()?.stroking ? MOST_BESIDE_HAND : MOST_OUT);
	const rest = (): void => {
		// What is still to be computed will be due to be shown in a moment.
		if (running || told || flying.size || due.size || engine()?.due) return;
		told = true;
		tell({ say: 'settled' }, []);
	};

	const patch = (sheet: Id, tiles: readonly number[], data: Uint8Array<ArrayBuffer>): void => {
		const indexes = Uint32Array.from(tiles);
		out++;
		tell({ say: 'patch', sheet, tiles: indexes, data }, [data.buffer, indexes.buffer]);
	};
	const send = (open: Engine, sheet: Id, tiles: readonly number[]): void => {
		const { heap } = open.kernels;
		const at = heap.alloc(TILE_BYTES);
		const data = new Uint8Array(tiles.length * TILE_BYTES);
		tiles.forEach((tile, i) => {
			open.compositeTile(sheet, tile, at);
			data.set(heap.u8.subarray(at, at + TILE_BYTES), i * TILE_BYTES);
		});
		heap.free(at, TILE_BYTES);
		patch(sheet, tiles, data);
	};
	/** Gives tiles to the pool where it has hands free; what it makes of tiles that changed meanwhile is not shown. */
	const giveOver = (open: Engine, sheet: Id, tiles: readonly number[]): boolean => {
		const members = pool();
		const work = members && members.idle > 0 && tiles.length >= LEAST_OVER ? open.compositeWork(sheet, tiles) : null;
		if (!members || !work) return false;
		const job = ++jobs;
		for (const tile of tiles) flying.set(keyOf(sheet, tile), job);
		void members.do(work).then((data) => {
			const good = tiles.flatMap((tile, i) => (flying.get(keyOf(sheet, tile)) === job ? [[tile, i] as const] : []));
			for (const [tile] of good) flying.delete(keyOf(sheet, tile));
			if (open !== engine()) return;
			const shown = good.map(([tile]) => tile);
			if (!data) {
				// Nobody could: it is made here.
				if (shown.length) send(open, sheet, shown);
			} else if (good.length) {
				const whole = good.length === tiles.length;
				const part = whole ? data : new Uint8Array(good.length * TILE_BYTES);
				if (!whole)
					good.forEach(([, i], to) => {
						part.set(data.subarray(i * TILE_BYTES, (i + 1) * TILE_BYTES), to * TILE_BYTES);
					});
				patch(sheet, shown, part);
			}
			if (due.size) wake();
			else rest();
		});
		return true;
	};
	const wake = (): void => {
		if (running) return;
		running = true;
		turn.port2.postMessage(null);
	};
	const slice = (): void => {
		const open = engine();
		const until = performance.now() + SLICE_MS;
		while (open && due.size && out < most() && performance.now() < until) {
			const [sheet, tiles] = due.entries().next().value as [Id, Set<number>];
			const batch = [...tiles].slice(0, BATCH);
			for (const tile of batch) tiles.delete(tile);
			if (tiles.size === 0) due.delete(sheet);
			if (!open.project.sheets.some((each) => each.id === sheet) || giveOver(open, sheet, batch)) continue;
			send(open, sheet, batch);
		}
		if (due.size && out < most()) turn.port2.postMessage(null);
		else {
			running = false;
			rest();
		}
	};
	turn.port1.onmessage = slice;

	const add = (sheet: Id, tiles: Iterable<number>): void => {
		let set = due.get(sheet);
		if (!set) due.set(sheet, (set = new Set()));
		for (const tile of tiles) {
			set.add(tile);
			flying.delete(keyOf(sheet, tile));
		}
		told = false;
		wake();
	};
	return {
		add(dirty) {
			for (const [sheet, tiles] of dirty) if (tiles.length) add(sheet, tiles);
		},
		addAll({ id, width, height }, x, y) {
			add(id, tilesFrom({ cols: Math.ceil(width / TILE), rows: Math.ceil(height / TILE) }, x, y));
		},
		addNow(dirty) {
			const open = engine();
			if (!open) return;
			for (const [sheet, tiles] of dirty) {
				for (const tile of tiles) {
					due.get(sheet)?.delete(tile);
					flying.delete(keyOf(sheet, tile));
				}
				if (tiles.length) send(open, sheet, tiles);
			}
		},
		rest,
		taken() {
			out--;
			if (due.size && out < most()) wake();
		},
		get busy() {
			return running || flying.size > 0 || due.size > 0 || out > 0;
		},
		clear() {
			due.clear();
			flying.clear();
		},
	};
}
