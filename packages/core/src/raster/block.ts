import type { Kernels } from '@eppu/kernels';
import {
	dropTile,
	hasTexels,
	Kind,
	putState,
	putTexels,
	type Surface,
	setTileState,
	settleTile,
	TILE,
	type TileRecord,
	texelFormats,
	tileBytes,
	tileState,
	writableTexels,
} from '../surface/index.ts';
import { meet, type Rect } from './rect.ts';
import type { Block } from './resample.ts';

/** Whether a rectangle is a whole tile. */
export const isTile = ({ x, y, width, height }: Rect): boolean =>
	width === TILE && height === TILE && x % TILE === 0 && y % TILE === 0;

/** The tiles that a rectangle touches, cut to the surface. */
export function tilesOfRect(surface: { readonly cols: number; readonly rows: number }, rect: Rect): number[] {
	const out: number[] = [];
	if (rect.width <= 0 || rect.height <= 0) return out;
	const x1 = Math.min(surface.cols - 1, Math.floor((rect.x + rect.width - 1) / TILE));
	const y1 = Math.min(surface.rows - 1, Math.floor((rect.y + rect.height - 1) / TILE));
	for (let y = Math.max(0, Math.floor(rect.y / TILE)); y <= y1; y++)
		for (let x = Math.max(0, Math.floor(rect.x / TILE)); x <= x1; x++) out.push(y * surface.cols + x);
	return out;
}

export const tileRect = (surface: { readonly cols: number }, tile: number): Rect => ({
	x: (tile % surface.cols) * TILE,
	y: Math.floor(tile / surface.cols) * TILE,
	width: TILE,
	height: TILE,
});

/** The texels of a surface in a rectangle; beside the surface there is nothing. */
export function readBlock({ heap }: Kernels, surface: Surface, rect: Rect): Block {
	const { bytes, fill } = texelFormats[surface.format];
	const data = new Uint8Array(rect.width * rect.height * bytes);
	for (const tile of tilesOfRect(surface, rect)) {
		const { kind, data: at } = tileState(surface, tile);
		if (kind === Kind.empty) continue;
		const part = meet(tileRect(surface, tile), rect);
		const [tx, ty] = [part.x % TILE, part.y % TILE];
		for (let row = 0; row < part.height; row++) {
			const to = (part.y - rect.y + row) * rect.width + part.x - rect.x;
			const from = (ty + row) * TILE + tx;
			if (!hasTexels(kind)) fill(data.subarray(to * bytes, (to + part.width) * bytes), at);
			else data.set(heap.u8.subarray(at + from * bytes, at + (from + part.width) * bytes), to * bytes);
		}
	}
	return { rect, bytes, data };
}

/** The texels of a block that lie in a smaller rectangle. */
export function cutBlock({ rect: wide, bytes, data }: Block, rect: Rect): Uint8Array {
	const [line, whole] = [rect.width * bytes, wide.width * bytes];
	const out = new Uint8Array(line * rect.height);
	let from = (rect.y - wide.y) * whole + (rect.x - wide.x) * bytes;
	for (let to = 0; to < out.length; to += line, from += whole) out.set(data.subarray(from, from + line), to);
	return out;
}

/** The rectangle that a surface's content lies in, by whole tiles, cut to the surface; empty where there is none. */
export function contentTiles(surface: Surface): Rect {
	let [x0, y0, x1, y1] = [Infinity, Infinity, -1, -1];
	surface.kinds.forEach((kind, tile) => {
		if (kind === Kind.empty) return;
		const [x, y] = [tile % surface.cols, Math.floor(tile / surface.cols)];
		[x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
	});
	if (x1 < 0) return { x: 0, y: 0, width: 0, height: 0 };
	return meet(
		{ x: x0 * TILE, y: y0 * TILE, width: (x1 - x0 + 1) * TILE, height: (y1 - y0 + 1) * TILE },
		{ x: 0, y: 0, width: surface.width, height: surface.height },
	);
}

/**
 * Writes a block over what a surface holds there; the record keeps what was. `changed`, one a texel of the block, leaves
 * tiles alone in which it holds none.
 */
export function writeBlock(kernels: Kernels, record: TileRecord, block: Block, changed?: Uint8Array): void {
	const { heap } = kernels;
	const { surface } = record;
	const whole = meet(block.rect, { x: 0, y: 0, width: surface.width, height: surface.height });
	for (const tile of tilesOfRect(surface, whole)) {
		const part = meet(tileRect(surface, tile), whole);
		if (changed && !anyIn(changed, block.rect, part)) continue;
		const at = writableTexels(kernels, record, tile);
		copyRows(heap.u8, at, block, part);
		putTexels(kernels, record, tile, at);
	}
}

function anyIn(changed: Uint8Array, rect: Rect, part: Rect): boolean {
	for (let row = 0; row < part.height; row++) {
		const from = (part.y - rect.y + row) * rect.width + part.x - rect.x;
		for (let i = from; i < from + part.width; i++) if (changed[i]) return true;
	}
	return false;
}

function copyRows(u8: Uint8Array, at: number, { rect, bytes, data }: Block, part: Rect): void {
	const [tx, ty] = [part.x % TILE, part.y % TILE];
	for (let row = 0; row < part.height; row++) {
		const from = ((part.y - rect.y + row) * rect.width + part.x - rect.x) * bytes;
		u8.set(data.subarray(from, from + part.width * bytes), at + ((ty + row) * TILE + tx) * bytes);
	}
}

/** Puts whole tiles of a block in the place of a surface's own, with no record: for what can be made again. */
export function replaceTiles(kernels: Kernels, surface: Surface, block: Block): void {
	const { heap } = kernels;
	for (const tile of tilesOfRect(surface, block.rect)) {
		const part = meet(tileRect(surface, tile), block.rect);
		dropTile(heap, surface.format, tileState(surface, tile));
		const at = heap.alloc(tileBytes(surface.format));
		const bytes = tileBytes(surface.format);
		if (part.width < TILE || part.height < TILE) heap.u8.fill(0, at, at + bytes);
		// A tile by itself is as it lies.
		if (block.data.length === bytes && part.width === TILE && part.height === TILE) heap.u8.set(block.data, at);
		else copyRows(heap.u8, at, block, part);
		setTileState(surface, tile, settleTile(kernels, surface.format, at));
	}
}

/** Empties a surface; the record keeps what was. */
export function emptySurface({ heap }: Kernels, record: TileRecord): void {
	record.surface.kinds.forEach((kind, tile) => {
		if (kind !== Kind.empty) putState(heap, record, tile, { kind: Kind.empty, data: 0 });
	});
}
