import type { Heap, Kernels, Ptr } from '@eppu/kernels';
import { type TexelFormat, texelFormats, tileBytes } from './format.ts';
import { emptyTile, hasTexels, Kind, TILE, type TileState } from './tile.ts';

export type SurfaceId = string;

/** A picture of sparse 64x64 tiles. Its tiles change only through `edit.ts`. */
export interface Surface {
	readonly id: SurfaceId;
	readonly format: TexelFormat;
	readonly width: number;
	readonly height: number;
	readonly cols: number;
	readonly rows: number;
	readonly kinds: Uint8Array;
	readonly data: Uint32Array;
}

/** An empty surface; nothing is allocated for its texels. */
export function createSurface(id: SurfaceId, format: TexelFormat, width: number, height: number): Surface {
	const cols = Math.ceil(width / TILE);
	const rows = Math.ceil(height / TILE);
	return {
		id,
		format,
		width,
		height,
		cols,
		rows,
		kinds: new Uint8Array(cols * rows),
		data: new Uint32Array(cols * rows),
	};
}

/** The state of tile `index`. */
export function tileState(surface: Surface, index: number): TileState {
	return { kind: (surface.kinds[index] ?? Kind.empty) as Kind, data: surface.data[index] ?? 0 };
}

/** Puts a state in place, whose texels from now on belong to the surface. */
export function setTileState(surface: Surface, index: number, state: TileState): void {
	surface.kinds[index] = state.kind;
	surface.data[index] = state.data;
}

/** Gives a state's texels back to the heap. */
export function dropTile(heap: Heap, format: TexelFormat, state: TileState): void {
	if (hasTexels(state.kind)) heap.free(state.data, tileBytes(format));
}

/** Gives everything a surface holds back to the heap; it is empty afterwards. */
export function clearSurface(heap: Heap, surface: Surface): void {
	for (let i = 0; i < surface.kinds.length; i++) {
		dropTile(heap, surface.format, tileState(surface, i));
		setTileState(surface, i, emptyTile);
	}
}

/** Writes a tile's texels, whatever its kind, to `out`. */
export function writeTexels({ heap, run }: Kernels, format: TexelFormat, state: TileState, out: Ptr): void {
	const bytes = tileBytes(format);
	if (hasTexels(state.kind)) run.copy(out, state.data, bytes);
	else if (state.kind === Kind.empty) run.clear(out, bytes);
	else texelFormats[format].fill(heap.u8.subarray(out, out + bytes), state.data);
}

/** A copy of a state's texels outside the kernels' memory. */
export function stateTexels(heap: Heap, format: TexelFormat, state: TileState): Uint8Array<ArrayBuffer> {
	const bytes = tileBytes(format);
	const out = new Uint8Array(bytes);
	if (hasTexels(state.kind)) out.set(heap.u8.subarray(state.data, state.data + bytes));
	else if (state.kind === Kind.uniform) texelFormats[format].fill(out, state.data);
	return out;
}

/** A copy of a tile's texels outside the kernels' memory. */
export const readTexels = (heap: Heap, surface: Surface, index: number): Uint8Array<ArrayBuffer> =>
	stateTexels(heap, surface.format, tileState(surface, index));

/** Looks at texels at `at` and returns their state: an empty or uniform tile gives its block back. */
export function settleTile(kernels: Kernels, format: TexelFormat, at: Ptr): TileState {
	const { heap } = kernels;
	const kind = texelFormats[format].classify(kernels, at);
	if (hasTexels(kind)) return { kind, data: at };
	const value = kind === Kind.empty ? 0 : texelFormats[format].first(heap, at);
	heap.free(at, tileBytes(format));
	return { kind, data: value };
}

/** One texel as a word of RGBA8, red lowest; what has one channel shows it in all four. Outside the surface: 0. */
export function texelWord(heap: Heap, surface: Surface, x: number, y: number): number {
	if (x < 0 || y < 0 || x >= surface.width || y >= surface.height) return 0;
	const index = Math.floor(y / TILE) * surface.cols + Math.floor(x / TILE);
	const data = surface.data[index] as number;
	const at = (y % TILE) * TILE + (x % TILE);
	const { bytes, first, word } = texelFormats[surface.format];
	return word(hasTexels(surface.kinds[index] as Kind) ? first(heap, data + at * bytes) : data);
}

/** One texel as [r, g, b, a] 0..255, as `texelWord` tells it. */
export function texelAt(heap: Heap, surface: Surface, x: number, y: number): readonly [number, number, number, number] {
	const word = texelWord(heap, surface, x, y);
	return [word & 255, (word >> 8) & 255, (word >> 16) & 255, word >>> 24];
}

/** Bytes of the texels a surface holds in memory. */
export function surfaceBytes(surface: Surface): number {
	return surface.kinds.reduce((sum, kind) => sum + (hasTexels(kind as Kind) ? tileBytes(surface.format) : 0), 0);
}
