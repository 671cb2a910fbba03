import { TILE, TILE_TEXELS } from '../surface/index.ts';
import type { TexelMap } from './texelMap.ts';

/** Gutter texels of a map by 64x64 tile: where each tile's run begins, places in the tile, faces and texels continued. */
interface GutterByTile {
	readonly offset: Uint32Array;
	readonly place: Uint16Array;
	readonly face: Uint32Array;
	readonly source: Uint32Array;
}

const known = new WeakMap<TexelMap, GutterByTile>();

function gutterByTile(map: TexelMap): GutterByTile {
	const found = known.get(map);
	if (found) return found;
	const cols = Math.ceil(map.width / TILE);
	const tiles = cols * Math.ceil(map.height / TILE);
	const tileOf = (texel: number): number => {
		const x = texel % map.width;
		return Math.floor((texel - x) / map.width / TILE) * cols + Math.floor(x / TILE);
	};
	const offset = new Uint32Array(tiles + 1);
	for (const texel of map.gutterTexel) offset[tileOf(texel) + 1] = (offset[tileOf(texel) + 1] as number) + 1;
	for (let tile = 0; tile < tiles; tile++) offset[tile + 1] = (offset[tile + 1] as number) + (offset[tile] as number);
	const next = offset.slice();
	const place = new Uint16Array(map.gutterTexel.length);
	const face = new Uint32Array(map.gutterTexel.length);
	const source = new Uint32Array(map.gutterTexel.length);
	for (let f = 0; f + 1 < map.gutterOffset.length; f++)
		for (let g = map.gutterOffset[f] as number; g < (map.gutterOffset[f + 1] as number); g++) {
			const texel = map.gutterTexel[g] as number;
			const tile = tileOf(texel);
			const at = next[tile] as number;
			next[tile] = at + 1;
			place[at] = (Math.floor(texel / map.width) % TILE) * TILE + ((texel % map.width) % TILE);
			face[at] = f;
			source[at] = map.gutterSource[g] as number;
		}
	const made = { offset, place, face, source };
	known.set(map, made);
	return made;
}

/** The face of each texel of a 64x64 tile, that whose inside or bleed it is; -1 where there is none. */
export function facesOfTile(map: TexelMap, tile: number): Int32Array {
	const cols = Math.ceil(map.width / TILE);
	const x = (tile % cols) * TILE;
	const y = Math.floor(tile / cols) * TILE;
	const out = new Int32Array(TILE_TEXELS).fill(-1);
	for (let row = 0; row < Math.min(TILE, map.height - y); row++)
		for (let column = 0; column < Math.min(TILE, map.width - x); column++)
			out[row * TILE + column] = (map.faceOfTexel[(y + row) * map.width + x + column] as number) - 1;
	const { offset, place, face } = gutterByTile(map);
	for (let i = offset[tile] as number; i < (offset[tile + 1] as number); i++)
		out[place[i] as number] = face[i] as number;
	return out;
}

/** Gutter texels of a 64x64 tile: their places in it, and the inside texels that they continue, row by row on the sheet. */
export function gutterOfTile(
	map: TexelMap,
	tile: number,
): { readonly places: Uint16Array; readonly sources: Uint32Array } {
	const { offset, place, source } = gutterByTile(map);
	const [from, to] = [offset[tile] as number, offset[tile + 1] as number];
	return { places: place.subarray(from, to), sources: source.subarray(from, to) };
}
