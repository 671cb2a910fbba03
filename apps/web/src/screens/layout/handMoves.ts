import { layOut, layoutOf } from '@eppu/core/layout';
import { type FlatPlace, sharesOf } from '@eppu/core/mesh';
import type { Affine } from '@eppu/core/raster';
import type { ShownModel } from '../../studio/told.ts';

/** Sheets by their id, as far as moving asks. */
export type SheetSizes = ReadonlyMap<string, { readonly width: number; readonly height: number }>;

/** Where all corners of a model lie on their sheets, u and v. */
export const cornersOf = (model: ShownModel): Float32Array => layoutOf(model).uvs;

/** The box around faces on their sheet, texels; null where they lie on several. */
export function boxOf(
	model: ShownModel,
	uvs: Float32Array,
	faces: Uint32Array,
	sheets: SheetSizes,
): {
	readonly x0: number;
	readonly y0: number;
	readonly x1: number;
	readonly y1: number;
	readonly sheet: string;
} | null {
	const on = new Set([...faces].map((face) => model.parts[model.partOfFace[face] as number]?.sheet ?? ''));
	const [sheet] = on as Iterable<string> as unknown as [string];
	const size = sheets.get(sheet);
	if (on.size !== 1 || !size) return null;
	let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
	for (const face of faces)
		for (let k = 0; k < 3; k++) {
			const at = (face * 3 + k) * 2;
			const [x, y] = [(uvs[at] as number) * size.width, (uvs[at + 1] as number) * size.height];
			[x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
		}
	return { x0, y0, x1, y1, sheet };
}

/** Corners with those of some faces moved by a map of texels; kept on the sheet as a whole. Null where they do not fit it. */
export function movedCorners(
	model: ShownModel,
	uvs: Float32Array,
	faces: Uint32Array,
	[a, b, c, d, e, f]: Affine,
	sheets: SheetSizes,
): Float32Array | null {
	const box = boxOf(model, uvs, faces, sheets);
	const size = box && sheets.get(box.sheet);
	if (!box || !size) return null;
	const out = uvs.slice();
	let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
	for (const face of faces)
		for (let k = 0; k < 3; k++) {
			const at = (face * 3 + k) * 2;
			const [u, v] = [(uvs[at] as number) * size.width, (uvs[at + 1] as number) * size.height];
			const [x, y] = [a * u + b * v + c, d * u + e * v + f];
			out[at] = x;
			out[at + 1] = y;
			[x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
		}
	if (x1 - x0 > size.width || y1 - y0 > size.height) return null;
	// Nothing lies beyond the sheet: what would is moved back onto it, by whole texels.
	const back = (low: number, high: number, most: number): number =>
		low < 0 ? Math.ceil(-low) : high > most ? -Math.ceil(high - most) : 0;
	const [bx, by] = [back(x0, x1, size.width), back(y0, y1, size.height)];
	for (const face of faces)
		for (let k = 0; k < 3; k++) {
			const at = (face * 3 + k) * 2;
			out[at] = ((out[at] as number) + bx) / size.width;
			out[at + 1] = ((out[at + 1] as number) + by) / size.height;
		}
	return out;
}

/** How islands are lined up: by a side, or by their middles. */
export const alignments = [
	['left', 'Left sides'],
	['right', 'Right sides'],
	['top', 'Upper sides'],
	['bottom', 'Lower sides'],
	['across', 'Middles, side by side'],
	['down', 'Middles, one below the other'],
] as const;
export type Alignment = (typeof alignments)[number][0];

/** Corners with each chosen island moved, by whole texels, so that they are lined up. Null where they lie on several sheets. */
export function alignedCorners(
	model: ShownModel,
	faces: Uint32Array,
	by: Alignment,
	sheets: SheetSizes,
): Float32Array | null {
	const islands = new Map<number, number[]>();
	for (const face of faces) {
		const island = model.islandOfFace[face] as number;
		islands.set(island, [...(islands.get(island) ?? []), face]);
	}
	let uvs: Float32Array | null = cornersOf(model);
	const all = boxOf(model, uvs, faces, sheets);
	if (!all) return null;
	for (const list of islands.values()) {
		const own = Uint32Array.from(list);
		const box = uvs && boxOf(model, uvs, own, sheets);
		if (!uvs || !box) return null;
		const middle = (low: 'x0' | 'y0', high: 'x1' | 'y1'): number => (all[low] + all[high] - box[low] - box[high]) / 2;
		const [dx, dy] = {
			left: [all.x0 - box.x0, 0],
			right: [all.x1 - box.x1, 0],
			top: [0, all.y0 - box.y0],
			bottom: [0, all.y1 - box.y1],
			across: [0, middle('y0', 'y1')],
			down: [middle('x0', 'x1'), 0],
		}[by] as [number, number];
		uvs = movedCorners(model, uvs, own, [1, 0, Math.round(dx), 0, 1, Math.round(dy)], sheets);
	}
	return uvs;
}

/** A model as it would lie with other corners. */
export function shownWith(model: ShownModel, uvs: Float32Array): ShownModel {
	const { positions, normals, indices } = model;
	const laid = layOut({ positions, normals, indices, parts: [] }, { uvs });
	return { ...model, positions: laid.positions, normals: laid.normals, uvs: laid.uvs, indices: laid.indices };
}

/** Whether a place of a sheet, in texels, lies on one of some faces. */
export function liesOn(
	model: ShownModel,
	faces: Uint32Array,
	sheet: string,
	{ width, height }: { readonly width: number; readonly height: number },
	x: number,
	y: number,
): boolean {
	const [u, v] = [x / width, y / height];
	return faces.some((face) => {
		if (model.parts[model.partOfFace[face] as number]?.sheet !== sheet) return false;
		const [a, b, c] = [0, 1, 2].map((k): FlatPlace => {
			const at = (model.indices[face * 3 + k] as number) * 2;
			return [model.uvs[at] as number, model.uvs[at + 1] as number];
		}) as [FlatPlace, FlatPlace, FlatPlace];
		return sharesOf(a, b, c, u, v)?.every((share) => share >= 0) ?? false;
	});
}
