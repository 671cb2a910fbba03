import type { Ptr } from '@eppu/kernels';
import { facesOfTile, type TexelMap } from '../atlas/index.ts';
import type { Sheet } from '../document/index.ts';
import { RISES, risesOver } from '../light/index.ts';
import { type LaidMesh, meshBounds } from '../mesh/index.ts';
import { isTile, meet, type Rect, tilesOfRect } from '../raster/index.ts';
import type { Planes, SurfaceGround, Triple } from '../recipe/index.ts';
import { TILE } from '../surface/index.ts';
import { bendTable, bent, colorTable, overFace, sidesOf, tangentTable } from './bending.ts';
import { liftedOn } from './finer.ts';
import { hiddenFrom, solidOf } from './hidden.ts';
import type { IslandView } from './islandView.ts';
import type { Scene } from './scene.ts';
import { type SheetEdges, sheetEdges } from './sheetEdges.ts';
import { partSpan } from './spans.ts';

/** What recipes read of a model on a sheet; made once and kept as long as the scene. */
export interface ModelGround {
	/** Of a whole tile it is what is remembered: not to be written to. */
	facesIn(rect: Rect, step: number): Int32Array;
	/** Seen from an island, cells have the places that they show. */
	surfaceIn(planes: Planes, rect: Rect, step: number, view?: IslandView | null): SurfaceGround;
	/** Where a face has a texel, in the model's own units; beside it the face is carried on. */
	placeOf(face: number, x: number, y: number): readonly [number, number, number];
	/** How a texel's step changes a coordinate of a face's places: [across, down]. */
	slopeOf(face: number, axis: 0 | 1 | 2): readonly [number, number];
}

/** Tiles whose faces are remembered, 16 KB each. */
const MOST_TILES = 2048;

const known = new WeakMap<Scene, Map<string, ModelGround>>();

/** A scene's ground on a sheet. Cells are `step` texels wide. */
export function modelGround(scene: Scene, sheet: Sheet): ModelGround {
	let all = known.get(scene);
	if (!all) known.set(scene, (all = new Map()));
	const key = `${sheet.id}:${sheet.width}x${sheet.height}+${sheet.bleed}`;
	let ground = all.get(key);
	if (!ground) all.set(key, (ground = createGround(scene, sheet)));
	return ground;
}

/** Per face: x, y, z and normal as they change with the texel: 3 values for each of 6, [gx, gy, at the origin]. */
function faceTables(mesh: LaidMesh, sheet: Sheet): Float32Array {
	const { positions, normals, indices } = mesh;
	const { center, radius } = meshBounds(mesh);
	// In hundredths of the model's size.
	const unit = 50 / radius;
	const faces = indices.length / 3;
	const out = new Float32Array(faces * 18);
	for (let face = 0; face < faces; face++) {
		const v = [0, 1, 2].map((k) => indices[face * 3 + k] as number) as [number, number, number];
		const over = overFace(mesh, sheet, face);
		const p = v.map((i) =>
			[0, 1, 2].map((k) => ((positions[i * 3 + k] as number) - (center[k] as number)) * unit),
		) as number[][];
		let n = v.map((i) => [0, 1, 2].map((k) => normals?.[i * 3 + k] ?? 0));
		if (!normals) {
			const [u, w] = [1, 2].map((c) =>
				[0, 1, 2].map((k) => ((p[c] as number[])[k] as number) - ((p[0] as number[])[k] as number)),
			) as [number[], number[]];
			const [ux, uy, uz] = u as [number, number, number];
			const [wx, wy, wz] = w as [number, number, number];
			const flat = [uy * wz - uz * wy, uz * wx - ux * wz, ux * wy - uy * wx];
			n = [flat, flat, flat];
		}
		for (let k = 0; k < 6; k++) {
			const [f0, f1, f2] = [0, 1, 2].map((c) => ((k < 3 ? p : n)[c] as number[])[k % 3] as number) as [
				number,
				number,
				number,
			];
			out.set(over(f0, f1, f2), face * 18 + k * 3);
		}
	}
	return out;
}

/** What a texel of a sheet measures on the model, in its own units: the root of the areas' ratio. */
function meanTexel({ positions, uvs, indices }: LaidMesh, map: TexelMap, { width, height }: Sheet): number {
	let [inSpace, onSheet] = [0, 0];
	for (let face = 0; face < indices.length / 3; face++) {
		if (map.spanOffset[face + 1] === map.spanOffset[face]) continue;
		const [a, b, c] = [0, 1, 2].map((k) => indices[face * 3 + k] as number) as [number, number, number];
		const side = (v: number, k: number): number => (positions[v * 3 + k] as number) - (positions[a * 3 + k] as number);
		const [bx, by, bz, cx, cy, cz] = [side(b, 0), side(b, 1), side(b, 2), side(c, 0), side(c, 1), side(c, 2)];
		inSpace += Math.hypot(by * cz - bz * cy, bz * cx - bx * cz, bx * cy - by * cx);
		const flat = (v: number, k: number): number => (uvs[v * 2 + k] as number) - (uvs[a * 2 + k] as number);
		onSheet += Math.abs(flat(b, 0) * flat(c, 1) - flat(b, 1) * flat(c, 0)) * width * height;
	}
	return onSheet > 0 && inSpace > 0 ? Math.sqrt(inSpace / onSheet) : 1;
}

/** Cells of a rectangle, and the faces under them as they are numbered there. */
interface Cells {
	readonly planes: Planes;
	readonly rect: Rect;
	readonly step: number;
	readonly width: number;
	readonly count: number;
	readonly cells: Ptr;
	readonly numbered: readonly number[];
	readonly view: IslandView | null;
}

/** Three planes, made when they are first asked for, from what faces have from `k` on, of `row` numbers each. */
function laterTriple(
	{ planes, rect, step, width, count, cells, numbered, view }: Cells,
	k: number,
	unit: 0 | 1,
	from: Float32Array,
	row: number,
): () => Triple {
	const to: Triple = [planes.take(count), planes.take(count), planes.take(count)];
	let made = false;
	return () => {
		if (made) return to;
		made = true;
		planes.within(() => {
			const table = planes.take(numbered.length * 9);
			const out = planes.floats(table, numbered.length * 9);
			const [x, y] = [rect.x + step / 2, rect.y + step / 2];
			let n = 0;
			for (const f of numbered)
				for (let t = f * row + k * 3, end = t + 9; t < end; t += 3) {
					const [across, down] = [from[t] as number, from[t + 1] as number];
					out[n++] = across * step;
					out[n++] = down * step;
					out[n++] = across * x + down * y + (from[t + 2] as number);
				}
			planes.run.placeCells(cells, width, count / width, table, unit, ...to);
			if (!view?.over.cell.length) return;
			const { cell } = view.over;
			const [at, px, py] = [planes.take(cell.length), planes.take(cell.length), planes.take(cell.length)];
			planes.ints(at, cell.length).set(cell);
			planes.floats(px, cell.length).set(view.over.x);
			planes.floats(py, cell.length).set(view.over.y);
			planes.run.placeSome(at, px, py, cell.length, cells, x, y, step, table, unit, ...to);
		});
		return to;
	};
}

// biome-ignore lint/complexity/noExcessiveLinesPerFunction: tables of one sheet that its readers share.
function createGround(scene: Scene, sheet: Sheet): ModelGround {
	const { mesh, topology } = scene;
	const map: TexelMap = scene.mapOf(sheet);
	const tables = faceTables(mesh, sheet);
	const { center, radius } = meshBounds(mesh);
	const low = [Infinity, Infinity, Infinity];
	const high = [-Infinity, -Infinity, -Infinity];
	mesh.positions.forEach((v, i) => {
		const at = ((v - (center[i % 3] as number)) * 50) / radius;
		low[i % 3] = Math.min(low[i % 3] as number, at);
		high[i % 3] = Math.max(high[i % 3] as number, at);
	});
	const tiles = { cols: Math.ceil(sheet.width / TILE), rows: Math.ceil(sheet.height / TILE) };
	let perTexel = 0;
	/** What number each face had, and in which turn of numbering. */
	const [numberOf, lastTurn] = [
		new Int32Array(topology.islandOfFace.length),
		new Uint32Array(topology.islandOfFace.length),
	];
	let turn = 0;
	const texelOnModel = (): number => (perTexel ||= meanTexel(mesh, map, sheet) * (50 / radius));
	let edges: SheetEdges | null = null;
	/** Tiles are asked for one after the other, with those around each. */
	const lately = new Map<number, Int32Array>();
	const facesOf = (tile: number): Int32Array => {
		const found = lately.get(tile);
		if (found) return found;
		if (lately.size >= MOST_TILES) lately.delete(lately.keys().next().value as number);
		const faces = facesOfTile(map, tile);
		lately.set(tile, faces);
		return faces;
	};
	/** How the surface bends over each face's texels, for the angle that was asked for last. */
	const bends = new Map<number, Float32Array>();
	let tangents: ReturnType<typeof tangentTable> | null = null;
	let colors: Float32Array | null = null;
	const bendsAt = (angle: number): Float32Array => {
		let table = bends.get(angle);
		if (!table) {
			bends.clear();
			bends.set(angle, (table = bendTable(mesh, sheet, angle)));
		}
		return table;
	};
	/** Faces under cells of whole texels over all of the sheet, by their size: what drafts are drawn on. */
	const grids = new Map<number, Int32Array>();
	const facesIn = (rect: Rect, step: number): Int32Array => {
		if (step === 1 || step % 1 !== 0 || rect.x % step !== 0 || rect.y % step !== 0) return facesUnder(rect, step);
		const [cols, rows] = [Math.ceil(sheet.width / step), Math.ceil(sheet.height / step)];
		let grid = grids.get(step);
		const all = { x: 0, y: 0, width: sheet.width, height: sheet.height };
		if (!grid) grids.set(step, (grid = facesUnder(all, step)));
		const [w, h] = [Math.ceil(rect.width / step), Math.ceil(rect.height / step)];
		const out = new Int32Array(w * h).fill(-1);
		const [left, top] = [rect.x / step, rect.y / step];
		const [from, to] = [Math.max(0, left), Math.min(cols, left + w)];
		for (let y = Math.max(0, top); y < Math.min(rows, top + h); y++)
			out.set(grid.subarray(y * cols + from, y * cols + Math.max(from, to)), (y - top) * w + from - left);
		return out;
	};
	const facesUnder = (rect: Rect, step: number): Int32Array => {
		if (isTile(rect) && step === 1) return facesOf((rect.y / TILE) * tiles.cols + rect.x / TILE);
		const [w, h] = [Math.ceil(rect.width / step), Math.ceil(rect.height / step)];
		const out = new Int32Array(w * h).fill(-1);
		for (const tile of tilesOfRect(tiles, rect)) {
			const [tx, ty] = [(tile % tiles.cols) * TILE, Math.floor(tile / tiles.cols) * TILE];
			const faces = facesOf(tile);
			const part = meet(rect, { x: tx, y: ty, width: TILE, height: TILE });
			if (step === 1) {
				for (let row = 0; row < part.height; row++) {
					const from = (part.y - ty + row) * TILE + part.x - tx;
					out.set(faces.subarray(from, from + part.width), (part.y - rect.y + row) * w + part.x - rect.x);
				}
				continue;
			}
			const first = (from: number, corner: number): number => Math.max(0, Math.ceil((from - corner) / step - 0.5));
			for (let cy = first(ty, rect.y); cy < h; cy++) {
				const y = Math.floor(rect.y + (cy + 0.5) * step);
				if (y >= ty + TILE) break;
				for (let cx = first(tx, rect.x); cx < w; cx++) {
					const x = Math.floor(rect.x + (cx + 0.5) * step);
					if (x >= tx + TILE) break;
					out[cy * w + cx] = faces[(y - ty) * TILE + x - tx] as number;
				}
			}
		}
		return out;
	};
	const valueAt = (face: number, k: number, x: number, y: number): number => {
		const t = face * 18 + k * 3;
		return (tables[t] as number) * x + (tables[t + 1] as number) * y + (tables[t + 2] as number);
	};
	/** Numbers the faces of cells from 0 up, -1 where there is none; returns the faces in that order. */
	const numberFaces = (faces: Int32Array, cells: Int32Array): number[] => {
		const found: number[] = [];
		turn++;
		for (let i = 0, last = -1, number = -1; i < faces.length; i++) {
			const face = faces[i] as number;
			if (face !== last) {
				last = face;
				if (face < 0) number = -1;
				else if (lastTurn[face] === turn) number = numberOf[face] as number;
				else {
					number = found.length;
					lastTurn[face] = turn;
					numberOf[face] = number;
					found.push(face);
				}
			}
			cells[i] = number;
		}
		return found;
	};
	/** The numbers of the faces of whole tiles, remembered as their faces are: light is laid over all of them at once. */
	const numbers = new Map<number, { readonly cells: Int32Array; readonly faces: readonly number[] }>();
	const numbersOf = (rect: Rect, step: number, face: Int32Array) => {
		if (step !== 1 || !isTile(rect)) return undefined;
		const tile = (rect.y / TILE) * tiles.cols + rect.x / TILE;
		let found = numbers.get(tile);
		if (!found) {
			if (numbers.size >= MOST_TILES) numbers.delete(numbers.keys().next().value as number);
			const own = new Int32Array(face.length);
			numbers.set(tile, (found = { faces: numberFaces(face, own), cells: own }));
		}
		return found;
	};
	return {
		facesIn,
		placeOf: (face, x, y) =>
			[0, 1, 2].map((k) => (valueAt(face, k, x, y) * radius) / 50 + (center[k] as number)) as [number, number, number],
		slopeOf: (face, axis) => [tables[face * 18 + axis * 3] as number, tables[face * 18 + axis * 3 + 1] as number],
		surfaceIn(planes, rect, step, view = null) {
			const face = view?.faces ?? facesIn(rect, step);
			const width = Math.ceil(rect.width / step);
			const cells = planes.take(face.length);
			const known = view ? undefined : numbersOf(rect, step, face);
			const numbered = known?.faces ?? numberFaces(face, planes.ints(cells, face.length));
			if (known) planes.ints(cells, face.length).set(known.cells);
			const triples = { planes, rect, step, width, count: face.length, cells, numbered, view };
			/** Three planes, from what faces have from `k` on, of `row` numbers each. */
			const triple = (k: number, unit: 0 | 1, from = tables, row = 18): (() => Triple) =>
				laterTriple(triples, k, unit, from, row);
			const [place, normal] = [triple(0, 0), triple(3, 1)];
			const grid = { width, column: Math.round(rect.x / step), row: Math.round(rect.y / step) };
			const ground: SurfaceGround = {
				get place() {
					return place();
				},
				get normal() {
					return normal();
				},
				face,
				tile: known ? `${sheet.id} ${sheet.width}x${sheet.height}+${sheet.bleed} ${rect.x} ${rect.y}` : null,
				bare: numbered.length === 0,
				cells,
				rises() {
					const at = planes.take(numbered.length * RISES);
					const out = planes.floats(at, numbered.length * RISES);
					const way = (face: number, k: 0 | 1) =>
						[0, 3, 6].map((axis) => tables[face * 18 + axis + k] as number) as [number, number, number];
					numbered.forEach((f, n) => out.set(risesOver(way(f, 0), way(f, 1)).flat(), n * RISES));
					return at;
				},
				islandOf: (f) => topology.islandOfFace[f] as number,
				partOf: (f) => scene.partOfFace(f),
				partNames: mesh.parts.map(({ name }) => name),
				perTexel: texelOnModel(),
				low: low as [number, number, number],
				high: high as [number, number, number],
				solid: solidOf(mesh).mesh,
				finer: (other, cage, byParts) => liftedOn(planes, ground, grid, mesh, other, cage, byParts),
				partSpan: (part, axis) => partSpan(solidOf(mesh).mesh, part, axis),
				hidden(of, only) {
					const islandOf = (f: number): number => topology.islandOfFace[f] as number;
					const partOf = (f: number): number => scene.partOfFace(f);
					const own = { ...grid, face, place: place(), normal: normal(), islandOf, partOf };
					if (step === 1) return hiddenFrom(planes, own, solidOf(mesh), of, only, 'where alike');
					// On coarse cells it is a draft, and some of the rays show what a dial does.
					const few = { ...of, rays: Math.max(8, Math.round(of.rays / 4)) };
					return hiddenFrom(planes, own, solidOf(mesh), few, only, 'loosely');
				},
				bend(angle, wide) {
					const [out, into] = triple(0, 0, bendsAt(angle), 9)();
					return bent(planes, {
						solid: solidOf(mesh).mesh,
						angle,
						wide,
						face,
						cells,
						place: place(),
						normal: normal(),
						out,
						into,
					});
				},
				frame() {
					tangents ??= tangentTable(mesh, sheet);
					const { sides, table } = tangents;
					const side = sidesOf(planes, face, sides);
					return { tangent: triple(0, 0, table, 9)(), normal: triple(3, mesh.normals ? 0 : 1)(), side };
				},
				colors() {
					if (!mesh.colors) return null;
					colors ??= colorTable(mesh, sheet);
					return triple(0, 0, colors, 9)();
				},
				edges(of, angle, reach) {
					edges ??= sheetEdges(mesh, topology, map, sheet);
					const all = { rect, step, faces: face, cells, numbered, over: view?.over ?? null };
					return edges.squares(planes, all, of, angle, reach);
				},
			};
			return ground;
		},
	};
}
