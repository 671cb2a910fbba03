import type { Kernels } from '@eppu/kernels';
import { facesOfTile } from '../atlas/index.ts';
import { pathCoverage, readBlock } from '../raster/index.ts';
import { type Repeat, repeatedPath, type Shape, shapePath, similarTo, toneRange } from '../select/index.ts';
import {
	hasTexels,
	Kind,
	type Picture,
	type Surface,
	type SurfaceId,
	TILE,
	TILE_TEXELS,
	tileIntoPicture,
	tileState,
} from '../surface/index.ts';
import type { Id, Sheet } from './project.ts';
import type { Scene } from './scene.ts';

/** What a selection is made by. `layer` null looks at all layers together. */
export type SelectBy =
	| { readonly by: 'shape'; readonly shape: Shape; readonly repeat?: Repeat | null }
	| {
			readonly by: 'similar';
			readonly x: number;
			readonly y: number;
			/** 0..255 */
			readonly reach: number;
			/** Only what joins the place edge by edge. */
			readonly together: boolean;
			readonly layer: Id | null;
	  }
	| {
			readonly by: 'tones';
			readonly low: number;
			readonly high: number;
			readonly soft: number;
			readonly layer: Id | null;
	  }
	| { readonly by: 'piece'; readonly of: 'island' | 'part' | 'face'; readonly x: number; readonly y: number }
	| { readonly by: 'layer'; readonly layer: Id; readonly of: 'shape' | 'mask' };

/** The id of a sheet's selection surface. */
export const selectionIdOf = (sheet: Sheet): SurfaceId => `${sheet.id.slice(0, 60)}-sel`;

/** What a selection lets through in a tile: null where it lets all, A8 else. */
export function selectedTile({ heap }: Kernels, selection: Surface | undefined, tile: number): Uint8Array | null {
	if (!selection) return null;
	const { kind, data } = tileState(selection, tile);
	if (hasTexels(kind)) return heap.u8.slice(data, data + TILE_TEXELS);
	if (kind === Kind.uniform && data === 255) return null;
	return new Uint8Array(TILE_TEXELS).fill(data);
}

/** The texels of a piece of the model, its bleed among them, as A8 of the whole sheet; null where there is no model. */
export function pieceTone(
	scene: Scene,
	sheet: Sheet,
	of: 'island' | 'part' | 'face',
	x: number,
	y: number,
): Uint8Array | null {
	const spot = scene.spotOn(sheet, null, x, y);
	if (!spot) return null;
	const { islandOfFace } = scene.topology;
	const wanted = (face: number): boolean =>
		of === 'face'
			? face === spot.face
			: of === 'part'
				? scene.partOfFace(face) === spot.part
				: islandOfFace[face] === spot.island;
	const map = scene.mapOf(sheet);
	const picture = { width: sheet.width, height: sheet.height, data: new Uint8Array(sheet.width * sheet.height) };
	const tile = new Uint8Array(TILE_TEXELS);
	const count = Math.ceil(sheet.width / TILE) * Math.ceil(sheet.height / TILE);
	for (let index = 0; index < count; index++) {
		const faces = facesOfTile(map, index);
		for (let i = 0; i < TILE_TEXELS; i++) tile[i] = (faces[i] as number) >= 0 && wanted(faces[i] as number) ? 255 : 0;
		tileIntoPicture(tile, picture, index);
	}
	return picture.data;
}

/** What is asked for, as A8 of the whole sheet; null where it cannot be told (there is no model under the place). */
export function selectedTone(
	by: SelectBy,
	sheet: Sheet,
	scene: Scene | undefined,
	pictureOf: (layer: Id | null) => Picture,
	toneOf: (layer: Id, of: 'shape' | 'mask') => Uint8Array | null,
): Uint8Array | null {
	const rect = { x: 0, y: 0, width: sheet.width, height: sheet.height };
	switch (by.by) {
		case 'shape':
			return pathCoverage(repeatedPath(shapePath(by.shape), by.repeat ?? null), rect);
		case 'similar':
			return similarTo(pictureOf(by.layer), by.x, by.y, by.reach, by.together);
		case 'tones':
			return toneRange(pictureOf(by.layer), by.low, by.high, by.soft);
		case 'piece':
			return scene ? pieceTone(scene, sheet, by.of, by.x, by.y) : null;
		case 'layer':
			return toneOf(by.layer, by.of);
	}
}

/** A selection as A8 of the whole sheet; all of it where there is none. */
export function wholeSelection(kernels: Kernels, sheet: Sheet, selection: Surface | undefined): Uint8Array {
	const rect = { x: 0, y: 0, width: sheet.width, height: sheet.height };
	return selection ? readBlock(kernels, selection, rect).data : new Uint8Array(sheet.width * sheet.height).fill(255);
}
