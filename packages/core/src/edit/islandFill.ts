import type { Kernels } from '@eppu/kernels';
import { eachTexelOfFace, type TexelMap } from '../atlas/index.ts';
import { luma, type Rgb8 } from '../color/index.ts';
import {
	createRecord,
	Kind,
	putState,
	putTexels,
	type Surface,
	TILE,
	type TileRecord,
	writableTexels,
} from '../surface/index.ts';
import { fillMask } from './mask.ts';

/** Faces of a model that lie on a sheet. */
interface FacesOnSheet {
	readonly map: TexelMap;
	/** How many faces there are, and which of them are meant. */
	readonly faces: number;
	has(face: number): boolean;
}

/**
 * Lays a colour, opaque, on faces and their bleed, or on the whole surface; with `lockAlpha` alpha stays. On a mask
 * the colour's lightness is laid.
 */
export function fillRecord(
	kernels: Kernels,
	surface: Surface,
	on: FacesOnSheet | null,
	[r, g, b]: Rgb8,
	lockAlpha: boolean,
): TileRecord {
	const { heap } = kernels;
	const record = createRecord(surface);
	const color = r | (g << 8) | (b << 16);
	const value = (color | (255 << 24)) >>> 0;
	const at = new Uint32Array(surface.kinds.length);
	const light = Math.round(luma(r, g, b));
	const put = (x: number, y: number): void => {
		const tile = (y >> 6) * surface.cols + (x >> 6);
		const texels = at[tile] || (at[tile] = writableTexels(kernels, record, tile));
		if (surface.format === 'mask') {
			heap.u8[texels + (y % TILE) * TILE + (x % TILE)] = light;
			return;
		}
		const place = (texels >> 2) + (y % TILE) * TILE + (x % TILE);
		heap.u32[place] = lockAlpha ? (((heap.u32[place] as number) & 0xff000000) | color) >>> 0 : value;
	};
	const settle = (): TileRecord => {
		at.forEach((texels, tile) => {
			if (texels) putTexels(kernels, record, tile, texels);
		});
		return record;
	};
	if (on) {
		for (let face = 0; face < on.faces; face++) {
			if (!on.has(face)) continue;
			eachTexelOfFace(
				on.map,
				face,
				(y, x0, x1) => {
					for (let x = x0; x < x1; x++) put(x, y);
				},
				put,
			);
		}
		return settle();
	}
	if (surface.format === 'mask') return fillMask(kernels, surface, light);
	for (let tile = 0; tile < surface.kinds.length; tile++) {
		const x = (tile % surface.cols) * TILE;
		const y = Math.floor(tile / surface.cols) * TILE;
		const inside = x + TILE <= surface.width && y + TILE <= surface.height;
		if (inside && !lockAlpha) putState(heap, record, tile, { kind: Kind.uniform, data: value });
		else if (!lockAlpha || surface.kinds[tile] !== Kind.empty)
			for (let yy = y; yy < Math.min(surface.height, y + TILE); yy++)
				for (let xx = x; xx < Math.min(surface.width, x + TILE); xx++) put(xx, yy);
	}
	return settle();
}
