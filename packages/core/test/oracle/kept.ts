import type { KeptTile } from '../../src/engine/index.ts';

/** Keeps tiles as a store does: what covers many of a surface takes the place of each of them. */
export function keepTiles(kept: Map<string, KeptTile>, tiles: readonly KeptTile[]): void {
	for (const tile of tiles)
		for (let i = 0; i < (tile.count ?? 1); i++)
			kept.set(`${tile.surface} ${tile.index + i}`, { ...tile, index: tile.index + i, count: 1 });
}
