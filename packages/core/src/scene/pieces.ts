import { facesOfTile } from '../atlas/index.ts';
import { type Sheet, sheetRect } from '../document/index.ts';
import { meet, type Rect } from '../raster/index.ts';
import { TILE, TILE_TEXELS, tileIntoPicture } from '../surface/index.ts';
import type { Scene } from './scene.ts';

/** The texels around an island on its sheet, without its bleed. */
export function islandRect(scene: Scene, sheet: Sheet, island: number): Rect {
	const { mesh, topology } = scene;
	let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
	topology.islandOfFace.forEach((each, face) => {
		if (each !== island) return;
		for (let k = 0; k < 3; k++) {
			const v = mesh.indices[face * 3 + k] as number;
			const [x, y] = [(mesh.uvs[v * 2] as number) * sheet.width, (mesh.uvs[v * 2 + 1] as number) * sheet.height];
			[x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
		}
	});
	const [x, y] = [Math.floor(x0), Math.floor(y0)];
	return meet({ x, y, width: Math.ceil(x1) - x, height: Math.ceil(y1) - y }, sheetRect(sheet));
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
