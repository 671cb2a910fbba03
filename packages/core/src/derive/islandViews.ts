import type { Sheet } from '../document/index.ts';
import { grownRect, type Rect } from '../raster/index.ts';
import { type IslandView, islandView, modelGround, type Scene, sceneOfSheet } from '../scene/index.ts';
import type { Means } from './means.ts';

/** The island whose texel, or bleed, each texel of a rectangle is; -1 where it is none's. */
const islandsIn = (scene: Scene, sheet: Sheet, rect: Rect): Int32Array =>
	modelGround(scene, sheet)
		.facesIn(rect, 1)
		.map((face) => (face < 0 ? -1 : (scene.topology.islandOfFace[face] as number)));

/** The views that a rectangle's texels need: from each island that has any there; `owner` says whose they are. */
export interface Views {
	readonly owner: Int32Array;
	readonly views: readonly IslandView[];
}

/** Views of one sheet for one reach: what a recipe needs again and again while its dials move. */
interface KeptViews {
	readonly key: string;
	readonly tiles: Map<string, Views>;
	bytes: number;
}

const MOST_BYTES = 64 * 1024 * 1024;

const kept = new WeakMap<Scene, KeptViews>();

/** Views for what reads `reach` texels beside a rectangle; null where no model lies under it. */
export function viewsOf({ scenes }: Means, sheet: Sheet, rect: Rect, reach: number): Views | null {
	const scene = reach > 0 ? sceneOfSheet(scenes, sheet.id) : undefined;
	if (!scene) return null;
	const key = `${sheet.id} ${sheet.width} ${sheet.height} ${sheet.bleed} ${reach}`;
	let all = kept.get(scene);
	if (all?.key !== key) kept.set(scene, (all = { key, tiles: new Map(), bytes: 0 }));
	const place = `${rect.x} ${rect.y} ${rect.width} ${rect.height}`;
	const found = all.tiles.get(place);
	if (found) return found;
	const owner = islandsIn(scene, sheet, rect);
	const views = [...islandRects(owner, rect)].map(([island, box]) =>
		islandView(scene, sheet, grownRect(box, reach), island, reach),
	);
	const made = { owner, views };
	const bytes = owner.byteLength + views.reduce((sum, view) => sum + viewBytes(view), 0);
	if (all.bytes + bytes <= MOST_BYTES) {
		all.tiles.set(place, made);
		all.bytes += bytes;
	}
	return made;
}

const viewBytes = ({ faces, over }: IslandView): number => faces.byteLength + 3 * over.cell.byteLength;

/** Around the texels of each island in a rectangle. */
function islandRects(owner: Int32Array, rect: Rect): Map<number, Rect> {
	const edges = new Map<number, [x0: number, y0: number, x1: number, y1: number]>();
	for (let y = 0, i = 0; y < rect.height; y++)
		for (let x = 0; x < rect.width; x++, i++) {
			const island = owner[i] as number;
			if (island < 0) continue;
			const box = edges.get(island);
			if (!box) {
				edges.set(island, [x, y, x, y]);
				continue;
			}
			if (x < box[0]) box[0] = x;
			if (x > box[2]) box[2] = x;
			box[3] = y;
		}
	return new Map(
		[...edges].map(([island, [x0, y0, x1, y1]]) => [
			island,
			{ x: rect.x + x0, y: rect.y + y0, width: x1 - x0 + 1, height: y1 - y0 + 1 },
		]),
	);
}
