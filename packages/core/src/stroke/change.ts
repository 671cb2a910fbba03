import type { Kernels, Ptr } from '@eppu/kernels';
import type { SeamReader } from '../atlas/index.ts';
import { CUBE_BYTES, putCube, type ToneTool, toneChanged } from '../color/index.ts';
import type { PixelColors } from '../pixel/index.ts';
import {
	hasTexels,
	type Surface,
	TILE,
	TILE_TEXELS,
	type TileState,
	tileBytes,
	writeTexels,
} from '../surface/index.ts';

/** Where a tool leads a tile to at full strength: writes RGBA8 to `out`, a mask's as greys. `stateOf` tells tiles as before the stroke. */
export type Change = (tile: number, stateOf: (tile: number) => TileState, out: Ptr) => void;

/** A tile's texels as RGBA8 at `out`; a mask's are opaque greys. */
export function writeColors(kernels: Kernels, surface: Surface, state: TileState, out: Ptr): void {
	if (surface.format === 'color') return writeTexels(kernels, 'color', state, out);
	const { heap } = kernels;
	const words = heap.u32;
	for (let i = 0; i < TILE_TEXELS; i++) {
		const v = hasTexels(state.kind) ? (heap.u8[state.data + i] as number) : state.data;
		words[(out >> 2) + i] = (0xff000000 | (v << 16) | (v << 8) | v) >>> 0;
	}
}

const cubes = new WeakMap<Kernels, Map<string, Ptr>>();

/** Lighten, darken, contrast, saturate, hue shift: each texel by its own colour. */
export function toneChange(kernels: Kernels, surface: Surface, tool: ToneTool, amount: number): Change {
	const { heap, run } = kernels;
	let known = cubes.get(kernels);
	if (!known) cubes.set(kernels, (known = new Map()));
	const key = `${tool} ${amount}`;
	let cube = known.get(key);
	if (cube === undefined) {
		if (known.size > 8) {
			for (const at of known.values()) heap.free(at, CUBE_BYTES);
			known.clear();
		}
		cube = heap.alloc(CUBE_BYTES);
		putCube(kernels, cube, toneChanged(tool, amount));
		known.set(key, cube);
	}
	const at = cube;
	return (tile, stateOf, out) => {
		writeColors(kernels, surface, stateOf(tile), out);
		run.mapColors(out, at, out, TILE_TEXELS);
	};
}

/** Widest blur of the soften tool, texels; the region that a tile reads grows with it. */
export const MOST_SOFT = 16;

/** Soften: a Gauss blur of `radius` texels over the layer, over seams where the sheet has any. */
export function softChange(kernels: Kernels, surface: Surface, radius: number, seams: SeamReader | null): Change {
	const { heap, run } = kernels;
	const reach = Math.max(1, Math.min(MOST_SOFT, Math.round(radius)));
	const side = TILE + 2 * reach;
	const raw = Float32Array.from({ length: 2 * reach + 1 }, (_, i) =>
		Math.exp(-0.5 * ((2.2 * (i - reach)) / reach) ** 2),
	);
	const sum = raw.reduce((a, b) => a + b, 0);
	const weights = raw.map((w) => w / sum);
	const region = new Float32Array(side * side * 4);
	const texels = new Uint8Array(tileBytes('color'));
	return (tile, stateOf, out) => {
		const x0 = (tile % surface.cols) * TILE - reach;
		const y0 = Math.floor(tile / surface.cols) * TILE - reach;
		region.fill(0);
		const block = heap.alloc(tileBytes('color'));
		const known = new Map<number, Uint8Array>();
		const tileAt = (index: number): Uint8Array => {
			let found = known.get(index);
			if (!found) {
				writeColors(kernels, surface, stateOf(index), block);
				found = heap.u8.slice(block, block + texels.length);
				known.set(index, found);
			}
			return found;
		};
		const put = (x: number, y: number, r: number, g: number, b: number, a: number): void => {
			const at = (y * side + x) * 4;
			region[at] = (r * a) / 255;
			region[at + 1] = (g * a) / 255;
			region[at + 2] = (b * a) / 255;
			region[at + 3] = a;
		};
		const texel = (x: number, y: number, k: number): number => {
			const data = tileAt(Math.floor(y / TILE) * surface.cols + Math.floor(x / TILE));
			return data[((y % TILE) * TILE + (x % TILE)) * 4 + k] as number;
		};
		const clampX = (x: number): number => Math.max(0, Math.min(surface.width - 1, x));
		const clampY = (y: number): number => Math.max(0, Math.min(surface.height - 1, y));
		for (let y = 0; y < side; y++)
			for (let x = 0; x < side; x++) {
				const [tx, ty] = [clampX(x0 + x), clampY(y0 + y)];
				const a = texel(tx, ty, 3);
				if (a) put(x, y, texel(tx, ty, 0), texel(tx, ty, 1), texel(tx, ty, 2), a);
			}
		if (seams) {
			const rows = surface.kinds.length / surface.cols;
			for (
				let ty = Math.max(0, Math.floor(y0 / TILE));
				ty <= Math.min(rows - 1, Math.floor((y0 + side - 1) / TILE));
				ty++
			)
				for (
					let tx = Math.max(0, Math.floor(x0 / TILE));
					tx <= Math.min(surface.cols - 1, Math.floor((x0 + side - 1) / TILE));
					tx++
				) {
					const { place, x: px, y: py } = seams.partnersOf(ty * surface.cols + tx);
					for (let i = 0; i < place.length; i++) {
						const x = tx * TILE + ((place[i] as number) % TILE) - x0;
						const y = ty * TILE + Math.floor((place[i] as number) / TILE) - y0;
						if (x < 0 || y < 0 || x >= side || y >= side) continue;
						const [fx, fy] = [clampX(Math.floor(px[i] as number)), clampY(Math.floor(py[i] as number))];
						put(x, y, texel(fx, fy, 0), texel(fx, fy, 1), texel(fx, fy, 2), texel(fx, fy, 3));
					}
				}
		}
		heap.free(block, tileBytes('color'));
		const taps = Math.ceil(weights.byteLength / 16) * 16;
		const bytes = region.byteLength + taps + side * TILE * 16;
		const at = heap.alloc(bytes);
		heap.u8.set(new Uint8Array(region.buffer), at);
		heap.u8.set(new Uint8Array(weights.buffer), at + region.byteLength);
		run.blurRegion(at, reach, at + region.byteLength, at + region.byteLength + taps, out);
		heap.free(at, bytes);
	};
}

/**
 * What tools do on a pixel sheet, where each texel has one of its colours: lighter and darker go a step along the ramp, soft
 * takes the nearest colour to what lies around. Null for tools that lay or take.
 */
export function stepChange(kernels: Kernels, surface: Surface, tool: string, colors: PixelColors): Change | null {
	const { heap } = kernels;
	const by = tool === 'lighten' ? 1 : tool === 'darken' ? -1 : 0;
	if (by)
		return (tile, stateOf, out) => {
			writeColors(kernels, surface, stateOf(tile), out);
			for (let i = out >> 2, end = i + TILE_TEXELS; i < end; i++) {
				const word = heap.u32[i] as number;
				if (word >>> 24) heap.u32[i] = ((word & 0xff000000) | colors.step(word & 0xffffff, by)) >>> 0;
			}
		};
	if (tool !== 'soften') return null;
	return (tile, stateOf, out) => {
		const known = new Map<number, Uint32Array>();
		const texels = (index: number): Uint32Array => {
			let found = known.get(index);
			if (!found) {
				writeColors(kernels, surface, stateOf(index), out);
				known.set(index, (found = heap.u32.slice(out >> 2, (out >> 2) + TILE_TEXELS)));
			}
			return found;
		};
		const [x0, y0] = [(tile % surface.cols) * TILE, Math.floor(tile / surface.cols) * TILE];
		const at = (x: number, y: number): number => {
			if (x < 0 || y < 0 || x >= surface.width || y >= surface.height) return 0;
			const index = Math.floor(y / TILE) * surface.cols + Math.floor(x / TILE);
			return texels(index)[(y % TILE) * TILE + (x % TILE)] as number;
		};
		const made = Uint32Array.from({ length: TILE_TEXELS }, (_, i) => {
			const [x, y] = [x0 + (i % TILE), y0 + Math.floor(i / TILE)];
			const own = at(x, y);
			if (own >>> 24 === 0) return own;
			const around = [own, own, at(x, y - 1), at(x + 1, y), at(x, y + 1), at(x - 1, y)].filter((word) => word >>> 24);
			const mean = (shift: number): number =>
				Math.round(around.reduce((sum, word) => sum + ((word >> shift) & 255), 0) / around.length);
			return ((own & 0xff000000) | colors.nearest(mean(0) | (mean(8) << 8) | (mean(16) << 16))) >>> 0;
		});
		heap.u32.set(made, out >> 2);
	};
}
