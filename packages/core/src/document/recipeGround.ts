import { grownRect, type Rect, readBlock } from '../raster/index.ts';
import type { Ground } from '../recipe/index.ts';
import { pictureTexel } from '../stroke/index.ts';
import type { SurfaceId } from '../surface/index.ts';

import { modelGround, sceneOfSheet } from './ground.ts';
import { type IslandView, islandView, readOver } from './islandView.ts';
import { alone, alphaOf, layersBlock, type Means, toneOf } from './layerPicture.ts';
import { type Layer, layerOf, type Sheet } from './project.ts';
import type { Scene } from './scene.ts';
import { ownMaskIdOf } from './stack.ts';

/**
 * A recipe's ground on texels of a rectangle, as seen from an island where its shapers read beside a place; or, with a
 * step, on coarse cells of it.
 */
export function groundOf(
	means: Means,
	sheet: Sheet,
	layer: Layer,
	rect: Rect,
	step: number,
	view: IslandView | null = null,
): Ground {
	const { kernels, surfaces, scenes, pictures } = means;
	const [width, height] = [Math.ceil(rect.width / step), Math.ceil(rect.height / step)];
	const scene = sceneOfSheet(scenes, sheet.id);
	const ground = scene && modelGround(scene, sheet);
	/** A picture of one channel on the cells; `read` gives any rectangle of it. */
	const toneIn = (read: (rect: Rect) => Uint8Array): Uint8Array => {
		const tone = read(rect);
		if (view) readOver(view.over, sheet, tone, read);
		if (step === 1) return tone;
		const out = new Uint8Array(width * height);
		for (let i = 0; i < out.length; i++) {
			const x = Math.min(rect.width - 1, Math.floor(((i % width) + 0.5) * step));
			const y = Math.min(rect.height - 1, Math.floor((Math.floor(i / width) + 0.5) * step));
			out[i] = tone[y * rect.width + x] as number;
		}
		return out;
	};
	const maskTone = (id: SurfaceId): Uint8Array | null => {
		const surface = surfaces.get(id);
		return surface ? toneIn((each) => readBlock(kernels, surface, each).data) : null;
	};
	return {
		width,
		height,
		scale: step,
		x: rect.x,
		y: rect.y,
		sheet,
		surface: ground?.surfaceIn(rect, step, view) ?? null,
		over: view?.over ?? null,
		painted: () => maskTone(layer.mask?.surface ?? ''),
		tap(id, of) {
			const other = layerOf(sheet, id);
			if (!other) return null;
			if (of === 'mask') return maskTone(ownMaskIdOf(other));
			const pick = of === 'tone' ? toneOf : alphaOf;
			return toneIn((each) => pick(layersBlock(means, sheet, [alone(other)], each)));
		},
		picture(id) {
			const picture = pictures.stencil(id);
			return picture ? (u, v, per) => pictureTexel(picture, u, v, per * picture.height, true).tone / 255 : null;
		},
		edges: (of, angle, most) => ground?.edgesIn(rect, step, of, angle, most, view) ?? null,
	};
}

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
