/** A run of cells of a row: from, and up to but not including. */
export type Run = readonly [from: number, to: number];

/** What a piece covers, row by row. */
export interface Mask {
	readonly width: number;
	readonly rows: readonly (readonly Run[])[];
}

/** Which cells of a sheet are taken. */
export interface Cells {
	readonly width: number;
	readonly height: number;
	/** For each cell the first one from it on in its row that is taken (the width where none is) … */
	readonly next: Int32Array;
	/** … and the first one that is free. */
	readonly free: Int32Array;
}

export function createCells(width: number, height: number): Cells {
	const cells = { width, height, next: new Int32Array(width * height), free: new Int32Array(width * height) };
	cells.next.fill(width);
	for (let i = 0; i < cells.free.length; i++) cells.free[i] = i % width;
	return cells;
}

/** Takes runs of a row. */
export function take({ width, height, next, free }: Cells, y: number, runs: readonly Run[]): void {
	if (y < 0 || y >= height || runs.length === 0) return;
	const base = y * width;
	for (const [from, to] of runs) for (let x = Math.max(0, from); x < Math.min(width, to); x++) next[base + x] = x;
	let [taken, open] = [width, width];
	for (let x = width - 1; x >= 0; x--) {
		if (next[base + x] === x) taken = x;
		else open = x;
		next[base + x] = taken;
		free[base + x] = next[base + x] === x ? open : x;
	}
}

/**
 * The first place from `x` on at which a mask whose first row is `y` meets nothing taken; -1 where the row has none. Each
 * run that meets something moves the whole on to where that run is past it.
 */
export function placeInRow({ width, next, free }: Cells, { rows, width: wide }: Mask, y: number, x: number): number {
	const last = width - wide;
	let row = 0;
	for (let clear = 0; clear < rows.length; clear++) {
		const base = (y + row) * width;
		for (const [from, to] of rows[row] as readonly Run[]) {
			let hit = next[base + x + from] as number;
			while (hit < x + to) {
				x = (free[base + hit] as number) - from;
				if (x > last) return -1;
				clear = 0;
				hit = next[base + x + from] as number;
			}
		}
		row = row + 1 === rows.length ? 0 : row + 1;
	}
	return x > last ? -1 : x;
}

/** Puts a mask down. */
export function putDown(cells: Cells, mask: Mask, x: number, y: number): void {
	mask.rows.forEach(
		(runs, row) =>
			void take(
				cells,
				y + row,
				runs.map(([from, to]): Run => [from + x, to + x]),
			),
	);
}

/**
 * The runs of cells, row by row, that triangles touch or come within `reach` cells of. Corners are 6 numbers a face, in
 * cells.
 */
export function runsOf(corners: ArrayLike<number>, height: number, reach: number): Run[][] {
	const rows: [number, number][][] = Array.from({ length: height }, () => []);
	for (let i = 0; i < corners.length; i += 6) {
		const at = (k: number): number => corners[i + k] as number;
		const [top, bottom] = [Math.min(at(1), at(3), at(5)), Math.max(at(1), at(3), at(5))];
		const [first, last] = [Math.max(0, Math.floor(top - reach)), Math.min(height - 1, Math.floor(bottom + reach))];
		for (let y = first; y <= last; y++) {
			const [from, to] = [y - reach, y + 1 + reach];
			let [low, high] = [Infinity, -Infinity];
			for (let k = 0; k < 6; k += 2) {
				const [px, py, qx, qy] = [at(k), at(k + 1), at((k + 2) % 6), at((k + 3) % 6)];
				const [y0, y1] = [Math.min(py, qy), Math.max(py, qy)];
				if (y1 < from || y0 > to) continue;
				// The part of the edge within the rows that near: its ends, or where it crosses their borders.
				const [s, e] = [Math.max(y0, from), Math.min(y1, to)];
				const [xs, xe] =
					qy === py ? [px, qx] : [px + ((s - py) / (qy - py)) * (qx - px), px + ((e - py) / (qy - py)) * (qx - px)];
				low = Math.min(low, xs, xe);
				high = Math.max(high, xs, xe);
			}
			if (low <= high) (rows[y] as [number, number][]).push([Math.floor(low - reach), Math.floor(high + reach) + 1]);
		}
	}
	return rows.map((runs) => {
		runs.sort((a, b) => a[0] - b[0]);
		const out: [number, number][] = [];
		for (const run of runs) {
			const before = out.at(-1);
			if (before && run[0] <= before[1]) before[1] = Math.max(before[1], run[1]);
			else out.push([run[0], run[1]]);
		}
		return out;
	});
}
