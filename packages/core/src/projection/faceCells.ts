import type { View } from './view.ts';

/** Px along a cell. */
const CELL = 16;

/** The faces of a view that look at the camera, by the cells of the view that they may show in. */
interface FaceCells {
	readonly cols: number;
	/** Where each cell's run of faces begins. */
	readonly offset: Uint32Array;
	readonly faces: Uint32Array;
}

const known = new WeakMap<View, FaceCells>();

/** Cells that a face may show in: [first and last column, first and last row]; null where it shows in none. */
function boundsOf(
	{ mesh, projection, X, Y, W }: View,
	face: number,
	cols: number,
	rows: number,
): [number, number, number, number] | null {
	let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
	for (let k = 0; k < 3; k++) {
		const v = mesh.indices[face * 3 + k] as number;
		const w = W[v] as number;
		// Whoever asks leaves out what comes so near.
		if (w < projection.nearest) return null;
		const [x, y] = [(X[v] as number) / w, (Y[v] as number) / w];
		if (x < x0) x0 = x;
		if (x > x1) x1 = x;
		if (y < y0) y0 = y;
		if (y > y1) y1 = y;
	}
	const cell = (at: number, most: number): number => Math.min(most, Math.max(0, Math.floor(at / CELL)));
	if (x1 < 0 || y1 < 0 || x0 > cols * CELL || y0 > rows * CELL) return null;
	// A px on the border of two cells is looked up in one of them.
	return [cell(x0 - 1e-6, cols - 1), cell(x1 + 1e-6, cols - 1), cell(y0 - 1e-6, rows - 1), cell(y1 + 1e-6, rows - 1)];
}

function cellsOf(view: View): FaceCells {
	const found = known.get(view);
	if (found) return found;
	const cols = Math.max(1, Math.ceil(view.projection.width / CELL));
	const rows = Math.max(1, Math.ceil(view.projection.height / CELL));
	const offset = new Uint32Array(cols * rows + 1);
	const bounds = new Int16Array(view.front.length * 4).fill(-1);
	for (let face = 0; face < view.front.length; face++) {
		const at = view.front[face] ? boundsOf(view, face, cols, rows) : null;
		if (!at) continue;
		bounds.set(at, face * 4);
		for (let y = at[2]; y <= at[3]; y++)
			for (let x = at[0]; x <= at[1]; x++) {
				const cell = y * cols + x + 1;
				offset[cell] = (offset[cell] as number) + 1;
			}
	}
	for (let i = 1; i < offset.length; i++) offset[i] = (offset[i] as number) + (offset[i - 1] as number);
	const faces = new Uint32Array(offset[cols * rows] as number);
	const next = offset.slice();
	for (let face = 0; face < view.front.length; face++) {
		const [x0, x1, y0, y1] = bounds.subarray(face * 4, face * 4 + 4) as unknown as [number, number, number, number];
		if (x0 < 0) continue;
		for (let y = y0; y <= y1; y++)
			for (let x = x0; x <= x1; x++) {
				const cell = y * cols + x;
				const at = next[cell] as number;
				next[cell] = at + 1;
				faces[at] = face;
			}
	}
	const made = { cols, offset, faces };
	known.set(view, made);
	return made;
}

/**
 * Faces that look at the camera and may show at a px of a view, in their order: made for the whole view when it is first
 * asked for. Null for px beside the view: there any face may show.
 */
export function facesNear(view: View, x: number, y: number): Uint32Array | null {
	const { width, height } = view.projection;
	if (!(x >= 0 && y >= 0 && x < width && y < height)) return null;
	const { cols, offset, faces } = cellsOf(view);
	const cell = Math.floor(y / CELL) * cols + Math.floor(x / CELL);
	return faces.subarray(offset[cell], offset[cell + 1]);
}
