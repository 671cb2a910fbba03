import { PLACE_NUMBERS, raysOf } from '../bake/index.ts';
import { faceNormals, type LaidMesh, type Mesh, meshBounds } from '../mesh/index.ts';
import type { Field, HiddenOf, Planes, Triple } from '../recipe/index.ts';

/** A model as grounds have it: in hundredths of its size from its middle, with the way that each face looks. */
export interface Solid {
	readonly mesh: LaidMesh;
	/** 3 a face. */
	readonly facing: Float32Array;
}

const known = new WeakMap<LaidMesh, Solid>();

export function solidOf(mesh: LaidMesh): Solid {
	const before = known.get(mesh);
	if (before) return before;
	const made = solidFrom(mesh, meshBounds(mesh));
	known.set(mesh, made);
	return made;
}

/** A mesh in hundredths of bounds that may be another's. */
export function solidFrom(mesh: LaidMesh, { center, radius }: ReturnType<typeof meshBounds>): Solid {
	const positions = mesh.positions.map((v, i) => ((v - (center[i % 3] as number)) * 50) / radius);
	const moved = { ...mesh, positions };
	return { mesh: moved, facing: faceNormals(moved).normals };
}

const hiding = new WeakMap<LaidMesh, Map<string, Mesh>>();

/** What hides: all of a model or one part of it, standing on a level ground or not. */
function hiders(mesh: LaidMesh, part: number | null, ground: boolean): Mesh {
	if (part === null && !ground) return mesh;
	let all = hiding.get(mesh);
	if (!all) hiding.set(mesh, (all = new Map()));
	const key = `${part} ${ground}`;
	const before = all.get(key);
	if (before) return before;
	const { firstFace, faces } = (part === null ? null : mesh.parts[part]) ?? {
		firstFace: 0,
		faces: mesh.indices.length / 3,
	};
	let [positions, indices] = [mesh.positions, mesh.indices.slice(firstFace * 3, (firstFace + faces) * 3)];
	if (ground) {
		const low = positions.reduce((least, v, i) => (i % 3 === 1 && v < least ? v : least), Infinity);
		const n = positions.length / 3;
		// So far that its rim is of no account.
		positions = Float32Array.of(
			...positions,
			...[-1, -1, -1, 1, 1, 1, 1, -1].flatMap((v, i, list) =>
				i % 2 ? [] : [v * 2000, low, (list[i + 1] as number) * 2000],
			),
		);
		indices = Uint32Array.of(...indices, n, n + 1, n + 2, n, n + 2, n + 3);
	}
	const made: Mesh = {
		positions,
		normals: null,
		indices,
		parts: [{ ...(mesh.parts[0] as Mesh['parts'][0]), firstFace: 0, faces: indices.length / 3 }],
	};
	all.set(key, made);
	return made;
}

/** In which order the turns of a block of four by four stand, so that neighbours differ most: B. Bayer (1973). */
const turns = [0, 8, 2, 10, 12, 4, 14, 6, 3, 11, 1, 9, 15, 7, 13, 5] as const;

/** The cells that are asked about. */
export interface HiddenCells {
	/** Cells in a row, and the number of the first cell's column and row on the sheet. */
	readonly width: number;
	readonly column: number;
	readonly row: number;
	readonly face: Int32Array;
	readonly place: Triple;
	readonly normal: Triple;
	islandOf(face: number): number;
	partOf(face: number): number;
}

/** Every so many cells either way are asked first; those between are asked only where these do not say it. */
const STRIDE = 4;
/** Cells around may differ by so much, and between them lies what lies between their values. */
const ALIKE = 0.05;
/** Cosine of the angle between faces over which values go on. */
const SMOOTH = 0.97;

/** Asks for some cells; answers are put into `out`. */
type Ask = (cells: readonly number[]) => void;

function asking(planes: Planes, cells: HiddenCells, { mesh, facing }: Solid, of: HiddenOf, out: Float32Array): Ask {
	const { width, column, row, face, place, normal } = cells;
	const count = face.length;
	const [x, y, z] = place.map((at) => planes.floats(at, count)) as [Float32Array, Float32Array, Float32Array];
	const [u, v, w] = normal.map((at) => planes.floats(at, count)) as [Float32Array, Float32Array, Float32Array];
	const away = of.inward ? -1 : 1;
	const ask = (wanted: readonly number[], part: number | null): void => {
		const list = new Float32Array(wanted.length * PLACE_NUMBERS);
		wanted.forEach((i, n) => {
			const block = ((Math.floor(i / width) + row) & 3) * 4 + (((i % width) + column) & 3);
			const turn = ((turns[block] as number) * Math.PI) / 8;
			const f = (face[i] as number) * 3;
			const own = [facing[f], facing[f + 1], facing[f + 2]] as [number, number, number];
			const smooth = [u[i], v[i], w[i]] as [number, number, number];
			// A normal that looks into the face is none.
			const used = smooth[0] * own[0] + smooth[1] * own[1] + smooth[2] * own[2] > 0.05 ? smooth : own;
			const at = [x[i] as number, y[i] as number, z[i] as number];
			const [way, faced] = [used.map((each) => each * away), own.map((each) => each * away)];
			list.set([...at, ...way, Math.cos(turn), Math.sin(turn), ...faced], n * PLACE_NUMBERS);
		});
		const found = raysOf(planes.kernels, hiders(mesh, part, of.ground ?? false)).occlusion(list, of);
		wanted.forEach((i, n) => {
			out[i] = found[n] as number;
		});
	};
	return (wanted) => {
		if (!of.own) return ask(wanted, null);
		const byPart = new Map<number, number[]>();
		for (const i of wanted) {
			const part = cells.partOf(face[i] as number);
			const list = byPart.get(part);
			if (list) list.push(i);
			else byPart.set(part, [i]);
		}
		for (const [part, list] of byPart) ask(list, part);
	};
}

/**
 * How much of the sky a model hides from cells, 0..1. The directions of each are turned otherwise than its neighbours', so
 * that four by four together see sixteen times as many. Between cells that agree the others take what lies between their
 * values, where `between` says so; `loosely`, for drafts, between any on the same island.
 */
export function hiddenFrom(
	planes: Planes,
	cells: HiddenCells,
	solid: Solid,
	of: HiddenOf,
	only: Field | null,
	between: 'no' | 'where alike' | 'loosely',
): Field {
	const { width, column, row, face, islandOf } = cells;
	const count = face.length;
	const height = count / width;
	const field = planes.take(count);
	const wanted = only === null ? null : planes.floats(only, count).slice();
	const out = new Float32Array(count);
	const ask = asking(planes, cells, solid, of, out);
	const lies = (i: number): boolean => (face[i] as number) >= 0;
	const asked = (i: number): boolean => lies(i) && wanted?.[i] !== 0;
	const all = Array.from(face.keys());
	if (between === 'no') ask(all.filter(asked));
	else {
		const lines = (length: number, first: number): number[] =>
			Array.from({ length }, (_, i) => i).filter(
				(i) => i === 0 || i === length - 1 || ((i + first) & (STRIDE - 1)) === 0,
			);
		const [columns, rows] = [lines(width, column), lines(height, row)];
		const known = new Uint8Array(count);
		const first = rows.flatMap((y) => columns.map((x) => y * width + x)).filter(lies);
		ask(first);
		for (const i of first) known[i] = 1;
		const { facing } = solid;
		const alike = between === 'loosely' ? 1 : ALIKE;
		const goesOn = (a: number, b: number): boolean => {
			const [f, g] = [(face[a] as number) * 3, (face[b] as number) * 3];
			if (f === g) return true;
			if (islandOf(f / 3) !== islandOf(g / 3)) return false;
			if (between === 'loosely') return true;
			const cos = [0, 1, 2].reduce((sum, k) => sum + (facing[f + k] as number) * (facing[g + k] as number), 0);
			return cos > SMOOTH;
		};
		const rest: number[] = [];
		for (let r = 0; r + 1 < rows.length; r++)
			for (let c = 0; c + 1 < columns.length; c++) {
				const [x0, x1, y0, y1] = [columns[c], columns[c + 1], rows[r], rows[r + 1]] as [number, number, number, number];
				const corners = [y0 * width + x0, y0 * width + x1, y1 * width + x0, y1 * width + x1];
				const values = corners.map((i) => out[i] as number) as [number, number, number, number];
				const whole = corners.every(lies) && Math.max(...values) - Math.min(...values) <= alike;
				for (let y = y0; y <= y1; y++)
					for (let x = x0; x <= x1; x++) {
						const i = y * width + x;
						if (known[i] || !asked(i)) continue;
						known[i] = 1;
						if (!whole || !corners.every((corner) => goesOn(corner, i))) {
							const near =
								between === 'loosely' ? corners.find((corner) => lies(corner) && goesOn(corner, i)) : undefined;
							if (near === undefined) rest.push(i);
							else out[i] = out[near] as number;
							continue;
						}
						const [s, t] = [(x - x0) / (x1 - x0), (y - y0) / (y1 - y0)];
						out[i] = (values[0] * (1 - s) + values[1] * s) * (1 - t) + (values[2] * (1 - s) + values[3] * s) * t;
					}
			}
		ask(rest);
	}
	// Memory may have grown meanwhile: the plane is looked at anew.
	planes.floats(field, count).set(out);
	return field;
}
