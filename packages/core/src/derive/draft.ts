import { around, meet, type Rect, tileRect } from '../raster/index.ts';
import type { Field, Ground } from '../recipe/index.ts';
import { TILE } from '../surface/index.ts';
import type { Derived } from './spec.ts';

/** Texels along a cell of a coarse draft, and tiles a side of what is drafted at once. */
export const COARSE = 4;

/** Tiles and how they lie: columns of tiles, and the size of all in texels. */
interface Grid {
	readonly cols: number;
	readonly width: number;
	readonly height: number;
}

/** Tiles in the order of the blocks, so many tiles a side, that they lie in: the block of the first of them comes first. */
export function inBlocks(tiles: Iterable<number>, { cols }: Pick<Grid, 'cols'>, side: number): number[][] {
	const blocks = new Map<number, number[]>();
	for (const tile of tiles) {
		const block = Math.floor(tile / cols / side) * cols + Math.floor((tile % cols) / side);
		const list = blocks.get(block);
		if (list) list.push(tile);
		else blocks.set(block, [tile]);
	}
	return [...blocks.values()];
}

/** Texels of tiles, by tile; null of those that are empty. */
export type TileTexels = ReadonlyMap<number, Uint8Array | null>;

/** The drafts of tiles, each block of them made at once; of nothing that has none. */
export function draftTiles({ draft }: Pick<Derived, 'draft'>, grid: Grid, tiles: readonly number[]): TileTexels {
	const out = new Map<number, Uint8Array | null>();
	if (!draft) return out;
	const sheet = { x: 0, y: 0, width: grid.width, height: grid.height };
	for (const block of inBlocks(tiles, grid, draft.tiles)) {
		const rects = block.map((tile) => meet(tileRect(grid, tile), sheet));
		draft.make(rects.reduce(around), rects).forEach((texels, i) => {
			out.set(block[i] as number, texels);
		});
	}
	return out;
}

/** Tones of tiles as they lie between the cells of a field of a ground, which is wide enough around them; null where all are 0. */
export function finerTones(
	{ planes, width, height, scale, x, y }: Ground,
	field: Field,
	tiles: readonly Rect[],
): (Uint8Array | null)[] {
	return planes.within(() => {
		const sizes = tiles.map((tile) => tile.width * tile.height);
		const lines = planes.take(2 * TILE + 8);
		const out = planes.take(Math.ceil(sizes.reduce((a, b) => a + b, 0) / 4));
		let texels = 0;
		const found = tiles.map((tile, i) => {
			const [left, top, size] = [tile.x - x, tile.y - y, sizes[i] as number];
			const to = out + texels;
			const tone = planes.run.finerBytes(field, width, height, scale, left, top, lines, to, tile.width, tile.height);
			if (tone > 0) planes.bytes(to, size).fill(tone);
			if (tone !== 0) texels += size;
			return tone === 0 ? null : { from: texels - size, to: texels };
		});
		// One buffer for all: a message that hands over many takes longer than their making.
		const all = planes.bytes(out, texels).slice();
		return found.map((at) => at && all.subarray(at.from, at.to));
	});
}
