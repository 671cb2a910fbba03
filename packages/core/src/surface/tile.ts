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
