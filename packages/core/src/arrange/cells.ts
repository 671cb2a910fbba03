/** A run of cells of a row: from, and up to but not including. */
export type Run = readonly [from: number, to: number];

/** What a piece covers, row by row. */
export interface Mask {
	readonly width: number;
	readonly rows: readonly (readonly Run[])[];
	/** For each row how many cells its widest run has. */
	readonly widest: Int32Array;
	/** The numbers of the rows that cover anything, the widest run first: what it meets moves the whole on furthest. */
	readonly order: Int32Array;
}

export function maskOfRuns(width: number, rows: readonly (readonly Run[])[]): Mask {
	const widest = Int32Array.from(rows, (runs) => runs.reduce((most, [from, to]) => Math.max(most, to - from), 0));
	const order = Int32Array.from(rows.keys())
		.filter((row) => (widest[row] as number) > 0)
		.sort((a, b) => (widest[b] as number) - (widest[a] as number) || a - b);
	return { width, rows, widest, order };
}

/** Which cells of a sheet are taken. */
export interface Cells {
	readonly width: number;
	readonly height: number;
	/** For each row the runs that are taken, from and to after each other, in order and apart. */
	readonly taken: number[][];
	/** For each row how many cells beside each other are free at the most. */
	readonly longest: Int32Array;
}

export const createCells = (width: number, height: number): Cells => ({
	width,
	height,
	taken: Array.from({ length: height }, () => []),
	longest: new Int32Array(height).fill(width),
});

/** The place in a row's list of the first run that ends after `x`. */
function runAfter(row: readonly number[], x: number): number {
	let [low, high] = [0, row.length >> 1];
	while (low < high) {
		const middle = (low + high) >> 1;
		if ((row[middle * 2 + 1] as number) > x) high = middle;
		else low = middle + 1;
	}
	return low * 2;
}

/** Takes runs of a row. */
export function take({ width, height, taken, longest }: Cells, y: number, runs: readonly Run[]): void {
	if (y < 0 || y >= height || runs.length === 0) return;
	const row = taken[y] as number[];
	for (const run of runs) {
		let [from, to] = [Math.max(0, run[0]), Math.min(width, run[1])];
		if (from >= to) continue;
		// Runs that touch become one.
		const first = runAfter(row, from - 1);
		let end = first;
		while (end < row.length && (row[end] as number) <= to) {
			from = Math.min(from, row[end] as number);
			to = Math.max(to, row[end + 1] as number);
			end += 2;
		}
		row.splice(first, end - first, from, to);
	}
	let most = width - (row.at(-1) ?? 0);
	for (let at = 0, open = 0; at < row.length; at += 2) {
		most = Math.max(most, (row[at] as number) - open);
		open = row[at + 1] as number;
	}
	longest[y] = most;
}

/**
 * The first place from `x` on at which a mask whose first row is `y` meets nothing taken; -1 where the row has none. Each
 * run that meets something moves the whole on to where that run is past it.
 */
export function placeInRow({ width, taken, longest }: Cells, mask: Mask, y: number, x: number): number {
	const { rows, widest, order } = mask;
	const last = width - mask.width;
	for (const row of order) if ((longest[y + row] as number) < (widest[row] as number)) return -1;
	let turn = 0;
	for (let clear = 0; clear < order.length; clear++) {
		const row = order[turn] as number;
		const there = taken[y + row] as number[];
		if (there.length)
			for (const [from, to] of rows[row] as readonly Run[]) {
				let at = runAfter(there, x + from);
				while (at < there.length && (there[at] as number) < x + to) {
					x = (there[at + 1] as number) - from;
					if (x > last) return -1;
					clear = 0;
					at += 2;
				}
			}
		turn = turn + 1 === order.length ? 0 : turn + 1;
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
