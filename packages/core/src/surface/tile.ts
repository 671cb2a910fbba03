/** Texels along a tile's side. */
export const TILE = 64;
/** Texels of a tile. */
export const TILE_TEXELS = TILE * TILE;

/** What a tile holds: nothing, one value, texels, or texels all opaque. */
export const Kind = { empty: 0, uniform: 1, mixed: 2, solid: 3 } as const;
export type Kind = (typeof Kind)[keyof typeof Kind];

/**
 * A tile's content: `data` is the value (RGBA8 little-endian, or A8) where the kind is uniform, the address of its
 * texels where it is mixed or solid, and 0 where it is empty.
 */
export interface TileState {
	readonly kind: Kind;
	readonly data: number;
}

export const emptyTile: TileState = { kind: Kind.empty, data: 0 };

/** Whether a tile has texels of its own in memory. */
export const hasTexels = (kind: Kind): boolean => kind >= Kind.mixed;

/** All tiles of a grid, those nearest to a texel first. */
export function tilesFrom(
	{ cols, rows }: { readonly cols: number; readonly rows: number },
	x: number,
	y: number,
): number[] {
	const away = (tile: number): number =>
		Math.hypot((tile % cols) + 0.5 - x / TILE, Math.floor(tile / cols) + 0.5 - y / TILE);
	const all = Array.from({ length: cols * rows }, (_, tile) => ({ tile, away: away(tile) }));
	return all.sort((a, b) => a.away - b.away).map(({ tile }) => tile);
}
