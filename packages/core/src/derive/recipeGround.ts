import { type Layer, layerOf, type Sheet } from '../document/index.ts';
import { type Rect, readBlock } from '../raster/index.ts';
import type { Ground, Planes } from '../recipe/index.ts';
import { type IslandView, modelGround, readOver, sceneOfSheet } from '../scene/index.ts';
import { pictureTexel } from '../stroke/index.ts';
import type { SurfaceId } from '../surface/index.ts';
import { ownMaskIdOf } from './derivedId.ts';
import { alone, alphaOf, layersBlock, toneOf } from './layerPicture.ts';
import type { Means } from './means.ts';

/**
 * A recipe's ground on texels of a rectangle, as seen from an island where its shapers read beside a place; or, with a
 * step, on coarse cells of it.
 */
export function groundOf(
	means: Means,
	planes: Planes,
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
		planes,
		surface: ground?.surfaceIn(planes, rect, step, view) ?? null,
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
	};
}
