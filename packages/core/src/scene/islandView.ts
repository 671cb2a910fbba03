import type { Landing, TexelMap } from '../atlas/index.ts';
import type { Sheet } from '../document/index.ts';
import { grownRect, meet, type Rect, squaredDistances, tileRect } from '../raster/index.ts';
import type { OverSeams } from '../recipe/index.ts';
import { TILE } from '../surface/index.ts';
import type { Scene } from './scene.ts';

/**
 * A rectangle of a sheet as seen from one island: beside it the model goes on over its seams, and not whatever else lies
 * near it on the sheet. Borders with nothing behind them are carried on flat.
 */
export interface IslandView {
	readonly island: number;
	readonly rect: Rect;
	/** The face that each cell shows, -1 farther away than was asked for. */
	readonly faces: Int32Array;
	readonly over: OverSeams;
}

/** Seams that are followed one after the other from one place. */
const MOST_HOPS = 4;

/**
 * What an island shows in a rectangle that lies within `reach` texels of its texels and bleed: so far from the island
 * itself as bleed and reach go together.
 */
export function islandView(scene: Scene, sheet: Sheet, rect: Rect, island: number, reach: number): IslandView {
	const map = scene.mapOf(sheet);
	const seams = scene.seamsOf(sheet);
	// The nearest of the island's own texels may lie as far beside the rectangle as the bleed is wide.
	const wide = grownRect(rect, sheet.bleed);
	const inside = ownFaces(scene, map, wide, island);
	// Deep inside an island it shows itself.
	if (!inside.includes(-1)) {
		const none = { cell: new Uint32Array(0), x: new Float32Array(0), y: new Float32Array(0) };
		return { island, rect, faces: ownFaces(scene, map, rect, island), over: none };
	}
	const nearest = new Int32Array(inside.length);
	const distances = squaredDistances((i) => (inside[i] as number) >= 0, wide.width, wide.height, nearest);
	const faces = new Int32Array(rect.width * rect.height).fill(-1);
	const [cell, x, y]: [number[], number[], number[]] = [[], [], []];
	const most = (reach + sheet.bleed) ** 2;
	for (let row = 0, i = 0; row < rect.height; row++)
		for (let column = 0; column < rect.width; column++, i++) {
			const at = (row + sheet.bleed) * wide.width + column + sheet.bleed;
			const d = distances[at] as number;
			if (d > most) continue;
			const face = inside[nearest[at] as number] as number;
			faces[i] = face;
			if (d === 0) continue;
			let place = seams.across(face, rect.x + column + 0.5, rect.y + row + 0.5, Math.sqrt(d) + 1);
			let there = place ? faceNear(scene, map, place) : -1;
			// Past the far border of a narrow island the next one begins.
			for (let hops = 1; place && there < 0 && hops < MOST_HOPS; hops++) {
				place = seams.acrossIsland(place.island, place.x, place.y);
				there = place ? faceNear(scene, map, place) : -1;
			}
			if (!place || there < 0) continue;
			faces[i] = there;
			cell.push(i);
			x.push(place.x);
			y.push(place.y);
		}
	return {
		island,
		rect,
		faces,
		over: { cell: Uint32Array.from(cell), x: Float32Array.from(x), y: Float32Array.from(y) },
	};
}

/** The face of each cell that is the island's own, else -1. */
function ownFaces({ topology }: Scene, map: TexelMap, rect: Rect, island: number): Int32Array {
	const faces = new Int32Array(rect.width * rect.height).fill(-1);
	const part = meet(rect, { x: 0, y: 0, width: map.width, height: map.height });
	for (let row = 0; row < part.height; row++) {
		const from = (part.y + row) * map.width + part.x;
		const to = (part.y - rect.y + row) * rect.width + part.x - rect.x;
		for (let i = 0; i < part.width; i++) {
			const face = (map.faceOfTexel[from + i] as number) - 1;
			if (face >= 0 && topology.islandOfFace[face] === island) faces[to + i] = face;
		}
	}
	return faces;
}

/** An island's face at a landing, or beside it: on a border the centre of the texel may lie just outside. */
function faceNear({ topology }: Scene, map: TexelMap, { x, y, island }: Landing): number {
	const [tx, ty] = [Math.floor(x), Math.floor(y)];
	for (let n = 0; n < 5; n++) {
		const [cx, cy] = [tx + (n === 1 ? -1 : n === 2 ? 1 : 0), ty + (n === 3 ? -1 : n === 4 ? 1 : 0)];
		if (cx < 0 || cy < 0 || cx >= map.width || cy >= map.height) continue;
		const face = (map.faceOfTexel[cy * map.width + cx] as number) - 1;
		if (face >= 0 && topology.islandOfFace[face] === island) return face;
	}
	return -1;
}

interface Size {
	readonly width: number;
	readonly height: number;
}

/** The four texels around a place and their shares. */
function eachTap(
	x: number,
	y: number,
	{ width, height }: Size,
	tap: (x: number, y: number, share: number) => void,
): void {
	const cx = Math.min(width - 1, Math.max(0, x - 0.5));
	const cy = Math.min(height - 1, Math.max(0, y - 0.5));
	const [x0, y0] = [Math.floor(cx), Math.floor(cy)];
	const [s, t] = [cx - x0, cy - y0];
	tap(x0, y0, (1 - s) * (1 - t));
	if (s > 0) tap(x0 + 1, y0, s * (1 - t));
	if (t > 0) tap(x0, y0 + 1, (1 - s) * t);
	if (s > 0 && t > 0) tap(x0 + 1, y0 + 1, s * t);
}

/** Puts into the cells over seams what a picture of one channel has there; `read` gives any rectangle of it, row by row. */
export function readOver(
	{ cell, x, y }: OverSeams,
	sheet: Size,
	read: (rect: Rect) => ArrayLike<number>,
	put: (cell: number, value: number) => void,
): void {
	const tiles = { cols: Math.ceil(sheet.width / TILE) };
	const known = new Map<number, ArrayLike<number>>();
	for (let i = 0; i < cell.length; i++) {
		let sum = 0;
		eachTap(x[i] as number, y[i] as number, sheet, (tx, ty, share) => {
			const tile = Math.floor(ty / TILE) * tiles.cols + Math.floor(tx / TILE);
			let data = known.get(tile);
			if (!data) known.set(tile, (data = read(tileRect(tiles, tile))));
			sum += share * (data[(ty % TILE) * TILE + (tx % TILE)] as number);
		});
		put(cell[i] as number, sum);
	}
}

/** The tiles that cells over seams read. */
export function tilesOver({ cell, x, y }: OverSeams, sheet: Size): Set<number> {
	const cols = Math.ceil(sheet.width / TILE);
	const out = new Set<number>();
	for (let i = 0; i < cell.length; i++)
		eachTap(x[i] as number, y[i] as number, sheet, (tx, ty) => {
			out.add(Math.floor(ty / TILE) * cols + Math.floor(tx / TILE));
		});
	return out;
}
