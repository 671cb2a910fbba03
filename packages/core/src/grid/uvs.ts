import type { LaidMesh } from '../mesh/index.ts';
import type { Cells } from '../wash/index.ts';

/** A cell's place in its grid, counted from the upper left. */
export interface CellPlace {
	readonly col: number;
	readonly row: number;
}

/** A line through the model: what lies across its start has a ramp's beginning, what lies across its end the other. */
export interface AlongLine {
	readonly from: readonly [x: number, y: number, z: number];
	readonly to: readonly [x: number, y: number, z: number];
}

/** How faces lie in a cell: in its middle, or along its colours by how high they are, by how much they look up, or along a line. */
export type Along = 'middle' | 'height' | 'facing' | AlongLine;

/** Half a texel of the smallest grid that is written, 16 texels a side: so far faces stay within their cell. */
const MARGIN = 0.5 / 16;
/** The part of a cell's inside that faces in its middle take. */
const MIDDLE = 1 / 3;

type Grid = Pick<Cells, 'cols' | 'rows'>;

/** The cell that a place on the sheet lies in. */
export function cellOfCorner({ cols, rows }: Grid, u: number, v: number): CellPlace {
	const among = (share: number, count: number): number => Math.min(count - 1, Math.max(0, Math.floor(share * count)));
	return { col: among(u, cols), row: among(v, rows) };
}

/** The middle of a face, u and v. */
const middleOf = (uvs: Float32Array, face: number): readonly [number, number] => {
	const at = (k: number): number =>
		((uvs[face * 6 + k] as number) + (uvs[face * 6 + 2 + k] as number) + (uvs[face * 6 + 4 + k] as number)) / 3;
	return [at(0), at(1)];
};

/** What of a cell faces may lie in: u0, v0, u1, v1. A cell that is no larger than twice the margin has only its middle. */
function inside({ cols, rows }: Grid, { col, row }: CellPlace): readonly [number, number, number, number] {
	const [du, dv] = [Math.min(MARGIN, 0.5 / cols), Math.min(MARGIN, 0.5 / rows)];
	return [col / cols + du, row / rows + dv, (col + 1) / cols - du, (row + 1) / rows - dv];
}

/**
 * Where corners lie (two numbers a corner) with some faces in a cell: as they lay, made small in its middle; or along its
 * colours, from its upper or left end where they are highest, look up most, or a line begins. All stay within it by half a texel at the
 * smallest size.
 */
export function assignedUvs(
	{ positions, normals, indices }: Pick<LaidMesh, 'positions' | 'normals' | 'indices'>,
	uvs: Float32Array,
	faces: readonly number[],
	grid: Grid,
	cell: CellPlace & { readonly along: 'down' | 'across' },
	along: Along,
): Float32Array {
	const out = uvs.slice();
	const corners = faces.flatMap((face) => [face * 3, face * 3 + 1, face * 3 + 2]);
	if (!corners.length) return out;
	const [u0, v0, u1, v1] = inside(grid, cell);
	const [cu, cv] = [(u0 + u1) / 2, (v0 + v1) / 2];
	const range = (of: (corner: number) => number): readonly [number, number] =>
		corners.reduce<[number, number]>(
			([low, high], c) => [Math.min(low, of(c)), Math.max(high, of(c))],
			[Infinity, -Infinity],
		);
	if (along === 'middle') {
		const [left, right] = range((c) => uvs[c * 2] as number);
		const [top, bottom] = range((c) => uvs[c * 2 + 1] as number);
		const span = Math.max(right - left, bottom - top);
		const k = span > 0 ? (MIDDLE * Math.min(u1 - u0, v1 - v0)) / span : 0;
		for (const c of corners) {
			out[c * 2] = cu + ((uvs[c * 2] as number) - (left + right) / 2) * k;
			out[c * 2 + 1] = cv + ((uvs[c * 2 + 1] as number) - (top + bottom) / 2) * k;
		}
		return out;
	}
	const line = typeof along === 'object' ? along : null;
	const way = line ? line.to.map((v, k) => v - (line.from[k] as number)) : [];
	const long = way.reduce((sum, v) => sum + v * v, 0);
	const measure = (c: number): number => {
		const vertex = indices[c] as number;
		if (line) {
			const on = way.reduce(
				(sum, v, k) => sum + v * ((positions[vertex * 3 + k] as number) - (line.from[k] as number)),
				0,
			);
			return 1 - Math.min(1, Math.max(0, long > 0 ? on / long : 0));
		}
		return along === 'height' || !normals ? (positions[vertex * 3 + 1] as number) : (normals[vertex * 3 + 1] as number);
	};
	const [low, high] = line ? [0, 1] : along === 'facing' && normals ? [-1, 1] : range(measure);
	for (const c of corners) {
		const share = high > low ? 1 - (measure(c) - low) / (high - low) : 0.5;
		const [u, v] = cell.along === 'down' ? [cu, v0 + (v1 - v0) * share] : [u0 + (u1 - u0) * share, cv];
		out[c * 2] = u;
		out[c * 2 + 1] = v;
	}
	return out;
}

/** Whether all of a face lies in a cell. */
const liesWithin = (uvs: Float32Array, face: number, grid: Grid, { col, row }: CellPlace): boolean =>
	[0, 1, 2].every((k) => {
		const at = cellOfCorner(grid, uvs[face * 6 + k * 2] as number, uvs[face * 6 + k * 2 + 1] as number);
		return at.col === col && at.row === row;
	});

/**
 * Where corners lie after their grid changed: each face goes with its cell, to its place in the other count, or to where
 * `moved` says; within the cell it stays where it was. Only faces that `takes` are moved, and none that lies over more
 * than one cell: it was put in none.
 */
export function regriddedUvs(
	uvs: Float32Array,
	takes: (face: number) => boolean,
	from: Grid,
	to: Grid,
	moved: (cell: CellPlace) => CellPlace,
): Float32Array {
	const out = uvs.slice();
	for (let face = 0; face < uvs.length / 6; face++) {
		if (!takes(face)) continue;
		const was = cellOfCorner(from, ...middleOf(uvs, face));
		const now = moved(was);
		const stays = now.col === was.col && now.row === was.row && from.cols === to.cols && from.rows === to.rows;
		if (stays || !liesWithin(uvs, face, from, was)) continue;
		const [u0, v0, u1, v1] = inside(to, now);
		for (let k = 0; k < 3; k++) {
			const at = face * 6 + k * 2;
			const u = (now.col + (uvs[at] as number) * from.cols - was.col) / to.cols;
			const v = (now.row + (uvs[at + 1] as number) * from.rows - was.row) / to.rows;
			// In smaller cells the margin is the same: what would come too near a border is held off.
			out[at] = Math.min(u1, Math.max(u0, u));
			out[at + 1] = Math.min(v1, Math.max(v0, v));
		}
	}
	return out;
}

/** A mesh as who puts its faces in cells sees it. */
type Faces = Pick<LaidMesh, 'indices' | 'uvs' | 'parts'>;

/** The middle of a face on its sheet, u and v. */
function middleOfFace({ indices, uvs }: Faces, face: number): readonly [number, number] {
	const at = (k: number): number =>
		[0, 1, 2].reduce((sum, c) => sum + (uvs[(indices[face * 3 + c] as number) * 2 + k] as number), 0) / 3;
	return [at(0), at(1)];
}

/** Who uses a cell: a part, and how many of its faces. */
export interface CellUser {
	readonly part: number;
	readonly faces: number;
}

/** Who uses which cell of a grid, by `row * cols + col`: the parts of a mesh of those that `takes`. */
export function cellUsers(mesh: Faces, takes: (part: number) => boolean, grid: Grid): Map<number, CellUser[]> {
	const out = new Map<number, CellUser[]>();
	mesh.parts.forEach(({ firstFace, faces }, part) => {
		if (!takes(part)) return;
		const counts = new Map<number, number>();
		for (let face = firstFace; face < firstFace + faces; face++) {
			const { col, row } = cellOfCorner(grid, ...middleOfFace(mesh, face));
			const key = row * grid.cols + col;
			counts.set(key, (counts.get(key) ?? 0) + 1);
		}
		for (const [key, count] of counts) out.set(key, [...(out.get(key) ?? []), { part, faces: count }]);
	});
	return out;
}

/** Whether a face covers a place of the sheet, its border with it; a face without an area covers none. */
function covers({ indices, uvs }: Faces, face: number, u: number, v: number): boolean {
	const [a, b, c] = [0, 1, 2].map((k) => (indices[face * 3 + k] as number) * 2) as [number, number, number];
	const side = (p: number, q: number): number =>
		((uvs[q] as number) - (uvs[p] as number)) * (v - (uvs[p + 1] as number)) -
		((uvs[q + 1] as number) - (uvs[p + 1] as number)) * (u - (uvs[p] as number));
	const [x, y, z] = [side(a, b), side(b, c), side(c, a)];
	return x + y + z !== 0 && ((x >= 0 && y >= 0 && z >= 0) || (x <= 0 && y <= 0 && z <= 0));
}

/**
 * What of meshes lies at a place of their sheet (u, v 0..1), by mesh: the faces that cover it; where none does, those whose
 * middle is in the cell there, as faces that were put along its colours have no area. Empty lists where nothing lies.
 */
export function facesUnder(
	meshes: readonly { readonly mesh: Faces; readonly takes: (part: number) => boolean }[],
	grid: Grid,
	u: number,
	v: number,
): number[][] {
	const here = cellOfCorner(grid, u, v);
	const found = meshes.map(({ mesh, takes }) => {
		const covering: number[] = [];
		const within: number[] = [];
		mesh.parts.forEach(({ firstFace, faces }, part) => {
			if (!takes(part)) return;
			for (let face = firstFace; face < firstFace + faces; face++) {
				if (covers(mesh, face, u, v)) covering.push(face);
				const { col, row } = cellOfCorner(grid, ...middleOfFace(mesh, face));
				if (col === here.col && row === here.row) within.push(face);
			}
		});
		return { covering, within };
	});
	const covered = found.some(({ covering }) => covering.length > 0);
	return found.map(({ covering, within }) => (covered ? covering : within));
}
