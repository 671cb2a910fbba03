import { type Layer, layerOf, type Sheet } from '../document/index.ts';
import { isTile, type Rect, readBlock } from '../raster/index.ts';
import type { Field, Ground, Planes } from '../recipe/index.ts';
import { type IslandView, modelGround, modelsSpan, readOver, sceneOfSheet } from '../scene/index.ts';
import { pictureTexel } from '../stroke/index.ts';
import { hasTexels, mapReader, type Surface, type SurfaceId, TILE, tileState } from '../surface/index.ts';
import { bakeIdOf, ownMaskIdOf } from './derivedId.ts';
import { alone, alphaOf, layersBlock, toneOf } from './layerPicture.ts';
import type { Means } from './means.ts';

/** Puts a whole tile of 16-bit tones into a plane; false where the rectangle is none. */
function deepTile(planes: Planes, surface: Surface, rect: Rect, field: Field): boolean {
	if (!isTile(rect)) return false;
	const { kind, data } = tileState(surface, (rect.y / TILE) * surface.cols + rect.x / TILE);
	if (hasTexels(kind)) planes.run.toneDeeps(data, TILE * TILE, field);
	else planes.run.fillField(field, TILE * TILE, data / 65535);
	return true;
}

/**
 * A recipe's ground on texels of a rectangle, as seen from an island where its shapers read beside a place; or, with a
 * step, on coarse cells of it.
 */
export function groundOf(
	means: Means,
	planes: Planes,
	sheet: Sheet,
	layer: Layer | null,
	rect: Rect,
	step: number,
	view: IslandView | null = null,
): Ground {
	const { kernels, surfaces, scenes, pictures } = means;
	const [width, height] = [Math.ceil(rect.width / step), Math.ceil(rect.height / step)];
	const scene = sceneOfSheet(scenes, sheet.id);
	const ground = scene && modelGround(scene, sheet);
	/** The texel of the rectangle in the middle of a cell. */
	const texelOf = (cell: number): number => {
		const x = Math.min(rect.width - 1, Math.floor(((cell % width) + 0.5) * step));
		const y = Math.min(rect.height - 1, Math.floor((Math.floor(cell / width) + 0.5) * step));
		return y * rect.width + x;
	};
	/** A picture of one channel on the cells; `read` gives any rectangle of it. */
	const toneIn = (read: (rect: Rect) => Uint8Array): Uint8Array => {
		const tone = read(rect);
		if (view)
			readOver(view.over, sheet, read, (cell, value) => {
				tone[cell] = Math.round(value);
			});
		if (step === 1) return tone;
		return Uint8Array.from({ length: width * height }, (_, i) => tone[texelOf(i)] as number);
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
		models: (axis) => (scene ? modelsSpan(scenes.values(), scene, axis) : null),
		painted: () => maskTone(layer?.mask?.surface ?? ''),
		baked(id) {
			const surface = surfaces.get(bakeIdOf(id, sheet));
			if (surface?.format !== 'deep') return null;
			const field = planes.take(width * height);
			if (step === 1 && !view && deepTile(planes, surface, rect, field)) return field;
			const read = (each: Rect): Uint16Array => {
				const { data } = readBlock(kernels, surface, each);
				return new Uint16Array(data.buffer, data.byteOffset, data.length / 2);
			};
			const tones = read(rect);
			const out = planes.floats(field, width * height);
			for (let i = 0; i < out.length; i++) out[i] = (tones[step === 1 ? i : texelOf(i)] as number) / 65535;
			if (view)
				readOver(view.over, sheet, read, (cell, value) => {
					out[cell] = value / 65535;
				});
			return field;
		},
		tap(id, of) {
			const other = layerOf(sheet, id);
			if (!other) return null;
			if (of === 'mask') return maskTone(ownMaskIdOf(other));
			const pick = of === 'tone' ? toneOf : alphaOf;
			return toneIn((each) => pick(layersBlock(means, sheet, [alone(other)], each)));
		},
		map(hash) {
			const map = pictures.maps.get(hash);
			return map ? mapReader(map) : null;
		},
		color(id) {
			const picture = pictures.stencil(id);
			return picture ? (u, v, per) => pictureTexel(picture, u, v, per * picture.height, false).rgba : null;
		},
		picture(id) {
			const picture = pictures.stencil(id);
			return picture ? (u, v, per) => pictureTexel(picture, u, v, per * picture.height, true).tone / 255 : null;
		},
	};
}
