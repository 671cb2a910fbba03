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
 * The runs of cells, row by row, that triangles touch or come within `reach` cells of, on a grid `width` by `height`.
 * Corners are 6 numbers a face, in cells.
 */
export function runsOf(corners: ArrayLike<number>, width: number, height: number, reach: number): Run[][] {
	const covered = new Uint8Array(width * height);
	for (let i = 0; i < corners.length; i += 6) {
		const ax = corners[i] as number;
		const ay = corners[i + 1] as number;
		const bx = corners[i + 2] as number;
		const by = corners[i + 3] as number;
		const cx = corners[i + 4] as number;
		const cy = corners[i + 5] as number;
		const first = Math.max(0, Math.floor(Math.min(ay, by, cy) - reach));
		const last = Math.min(height - 1, Math.floor(Math.max(ay, by, cy) + reach));
		for (let y = first; y <= last; y++) {
			const from = y - reach;
			const to = y + 1 + reach;
			let low = Infinity;
			let high = -Infinity;
			for (let k = 0; k < 3; k++) {
				const px = k === 0 ? ax : k === 1 ? bx : cx;
				const py = k === 0 ? ay : k === 1 ? by : cy;
				const qx = k === 0 ? bx : k === 1 ? cx : ax;
				const qy = k === 0 ? by : k === 1 ? cy : ay;
				const y0 = py < qy ? py : qy;
				const y1 = py < qy ? qy : py;
				if (y1 < from || y0 > to) continue;
				// The part of the edge within the rows that near: its ends, or where it crosses their borders.
				let xs = px;
				let xe = qx;
				if (qy !== py) {
					const slope = (qx - px) / (qy - py);
					xs = px + ((y0 > from ? y0 : from) - py) * slope;
					xe = px + ((y1 < to ? y1 : to) - py) * slope;
				}
				if (xs > xe) {
					const swap = xs;
					xs = xe;
					xe = swap;
				}
				if (xs < low) low = xs;
				if (xe > high) high = xe;
			}
			if (low > high) continue;
			const x0 = Math.max(0, Math.floor(low - reach));
			const x1 = Math.min(width, Math.floor(high + reach) + 1);
			if (x1 > x0) covered.fill(1, y * width + x0, y * width + x1);
		}
	}
	const rows: Run[][] = [];
	for (let y = 0; y < height; y++) {
		const row = covered.subarray(y * width, (y + 1) * width);
		const runs: Run[] = [];
		for (let x = row.indexOf(1); x >= 0; ) {
			const end = row.indexOf(0, x);
			runs.push([x, end < 0 ? width : end]);
			x = end < 0 ? -1 : row.indexOf(1, end);
		}
		rows.push(runs);
	}
	return rows;
}
