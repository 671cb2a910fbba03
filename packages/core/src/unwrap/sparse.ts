/** A sparse symmetric matrix: its entries off the diagonal by rows, and its diagonal. */
export interface Sparse {
	readonly start: Uint32Array;
	readonly column: Uint32Array;
	readonly value: Float64Array;
	readonly diagonal: Float64Array;
}

/** Gathers a matrix entry by entry; what is added at the same place is summed. */
export interface Gathering {
	add(row: number, column: number, value: number): void;
	done(): Sparse;
}

export function gather(size: number, most: number): Gathering {
	let [rows, columns, values] = [new Uint32Array(most), new Uint32Array(most), new Float64Array(most)];
	let count = 0;
	const diagonal = new Float64Array(size);
	return {
		add(row, column, value) {
			if (row === column) {
				diagonal[row] = (diagonal[row] as number) + value;
				return;
			}
			if (count === rows.length) {
				const [r, c, v] = [new Uint32Array(count * 2), new Uint32Array(count * 2), new Float64Array(count * 2)];
				r.set(rows);
				c.set(columns);
				v.set(values);
				[rows, columns, values] = [r, c, v];
			}
			rows[count] = row;
			columns[count] = column;
			values[count++] = value;
		},
		done() {
			const start = new Uint32Array(size + 1);
			for (let i = 0; i < count; i++) {
				const row = (rows[i] as number) + 1;
				start[row] = (start[row] as number) + 1;
			}
			for (let i = 0; i < size; i++) start[i + 1] = (start[i + 1] as number) + (start[i] as number);
			const at = start.slice();
			const [column, value] = [new Uint32Array(count), new Float64Array(count)];
			const known = new Map<number, number>();
			// Rows are filled in order of what was added; equal places are summed row by row below.
			for (let i = 0; i < count; i++) {
				const p = at[rows[i] as number] as number;
				at[rows[i] as number] = p + 1;
				column[p] = columns[i] as number;
				value[p] = values[i] as number;
			}
			let [to, from] = [0, 0];
			for (let row = 0; row < size; row++) {
				const end = start[row + 1] as number;
				start[row] = to;
				known.clear();
				for (; from < end; from++) {
					const c = column[from] as number;
					const place = known.get(c);
					if (place !== undefined) {
						value[place] = (value[place] as number) + (value[from] as number);
						continue;
					}
					known.set(c, to);
					column[to] = c;
					value[to++] = value[from] as number;
				}
			}
			start[size] = to;
			return { start, column: column.subarray(0, to), value: value.subarray(0, to), diagonal };
		},
	};
}

/**
 * An order of rows in which neighbours stand near each other. Source: E. Cuthill and J. McKee, "Reducing the bandwidth of
 * sparse symmetric matrices" (1969), turned round as A. George (1971) has it.
 */
function narrowOrder({ start, column, diagonal }: Sparse): Uint32Array {
	const size = diagonal.length;
	const order: number[] = [];
	const seen = new Uint8Array(size);
	const degree = (i: number): number => (start[i + 1] as number) - (start[i] as number);
	const walk = (from: number, mark: Uint8Array): number[] => {
		const list = [from];
		mark[from] = 1;
		for (const here of list) {
			const near: number[] = [];
			for (let k = start[here] as number; k < (start[here + 1] as number); k++) {
				const there = column[k] as number;
				if (mark[there]) continue;
				mark[there] = 1;
				near.push(there);
			}
			near.sort((a, b) => degree(a) - degree(b));
			list.push(...near);
		}
		return list;
	};
	for (let first = 0; first < size; first++) {
		if (seen[first]) continue;
		// From an end: the last that is met from anywhere, twice over.
		let from = first;
		for (let k = 0; k < 2; k++) from = walk(from, seen.slice()).at(-1) as number;
		order.push(...walk(from, seen));
	}
	return Uint32Array.from(order.reverse());
}

/** Solves a symmetric definite system; it is factored once, for many right sides. */
export type Solver = (right: Float64Array) => Float64Array;

/** Numbers that the factor may take; beyond that rounds of approximation are used. */
const MOST_ENTRIES = 24_000_000;

/** L·D·Lᵀ within the envelope of the rows, in a narrow order. Null where that would take too much memory. */
export function factored(matrix: Sparse): Solver | null {
	const { start, column, value, diagonal } = matrix;
	const size = diagonal.length;
	const order = narrowOrder(matrix);
	const place = new Uint32Array(size);
	order.forEach((i, at) => {
		place[i] = at;
	});
	const first = new Uint32Array(size);
	const offset = new Float64Array(size + 1);
	for (let at = 0; at < size; at++) {
		const i = order[at] as number;
		let least = at;
		for (let k = start[i] as number; k < (start[i + 1] as number); k++)
			least = Math.min(least, place[column[k] as number] as number);
		first[at] = least;
		offset[at + 1] = (offset[at] as number) + at - least;
	}
	if ((offset[size] as number) > MOST_ENTRIES) return null;
	const lower = new Float64Array(offset[size] as number);
	const pivots = new Float64Array(size);
	for (let at = 0; at < size; at++) {
		const i = order[at] as number;
		const [base, from] = [offset[at] as number, first[at] as number];
		for (let k = start[i] as number; k < (start[i + 1] as number); k++) {
			const j = place[column[k] as number] as number;
			if (j < at) lower[base + j - from] = value[k] as number;
		}
		for (let j = from; j < at; j++) {
			const [other, begin] = [offset[j] as number, first[j] as number];
			let sum = lower[base + j - from] as number;
			for (let k = Math.max(from, begin); k < j; k++)
				sum -= (lower[base + k - from] as number) * (lower[other + k - begin] as number);
			lower[base + j - from] = sum;
		}
		let pivot = diagonal[i] as number;
		for (let j = from; j < at; j++) {
			const g = lower[base + j - from] as number;
			const l = g / (pivots[j] as number);
			lower[base + j - from] = l;
			pivot -= g * l;
		}
		pivots[at] = Math.abs(pivot) > 1e-14 ? pivot : 1e-14;
	}
	return (right) => {
		const x = Float64Array.from(order, (i) => right[i] as number);
		for (let at = 0; at < size; at++) {
			const [base, from] = [offset[at] as number, first[at] as number];
			let sum = x[at] as number;
			for (let k = from; k < at; k++) sum -= (lower[base + k - from] as number) * (x[k] as number);
			x[at] = sum;
		}
		for (let at = 0; at < size; at++) x[at] = (x[at] as number) / (pivots[at] as number);
		for (let at = size - 1; at >= 0; at--) {
			const [base, from, v] = [offset[at] as number, first[at] as number, x[at] as number];
			for (let k = from; k < at; k++) x[k] = (x[k] as number) - (lower[base + k - from] as number) * v;
		}
		const out = new Float64Array(size);
		order.forEach((i, at) => {
			out[i] = x[at] as number;
		});
		return out;
	};
}

function multiply({ start, column, value, diagonal }: Sparse, x: Float64Array, out: Float64Array): void {
	for (let i = 0; i < diagonal.length; i++) {
		let sum = (diagonal[i] as number) * (x[i] as number);
		for (let k = start[i] as number; k < (start[i + 1] as number); k++)
			sum += (value[k] as number) * (x[column[k] as number] as number);
		out[i] = sum;
	}
}

/** Conjugate gradients with the diagonal as preconditioner (Hestenes and Stiefel 1952), for what is too large to factor. */
function approached(matrix: Sparse, right: Float64Array): Float64Array {
	const size = right.length;
	const x = new Float64Array(size);
	const r = right.slice();
	const [z, p, q] = [new Float64Array(size), new Float64Array(size), new Float64Array(size)];
	const enough =
		1e-12 *
		Math.max(
			right.reduce((sum, v) => sum + v * v, 0),
			1e-30,
		);
	let rho = 0;
	for (let round = 0; round < 3000; round++) {
		let [next, left] = [0, 0];
		for (let i = 0; i < size; i++) {
			z[i] = (r[i] as number) / ((matrix.diagonal[i] as number) || 1);
			next += (r[i] as number) * (z[i] as number);
			left += (r[i] as number) ** 2;
		}
		if (left <= enough) break;
		const beta = round ? next / rho : 0;
		rho = next;
		for (let i = 0; i < size; i++) p[i] = (z[i] as number) + beta * (p[i] as number);
		multiply(matrix, p, q);
		let dot = 0;
		for (let i = 0; i < size; i++) dot += (p[i] as number) * (q[i] as number);
		if (!(Math.abs(dot) > 1e-300)) break;
		const alpha = rho / dot;
		for (let i = 0; i < size; i++) {
			x[i] = (x[i] as number) + alpha * (p[i] as number);
			r[i] = (r[i] as number) - alpha * (q[i] as number);
		}
	}
	return x;
}

/** Solves systems of a symmetric definite matrix. */
export const solverOf = (matrix: Sparse): Solver => factored(matrix) ?? ((right) => approached(matrix, right));
