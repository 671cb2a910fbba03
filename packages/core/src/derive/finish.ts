import { type Layer, type Sheet, sheetRect } from '../document/index.ts';
import type { AnyFinish, FinishTexels, Followed } from '../finish/index.ts';
import { around, type Block, cutBlock, isEmptyRect, meet, type Rect, tileRect, tilesOfRect } from '../raster/index.ts';
import { islandRect, modelGround, sceneOfSheet } from '../scene/index.ts';
import { Kind, TILE } from '../surface/index.ts';
import { finishIdOf, maskIdOf } from './derivedId.ts';
import { imageInputs, outlineOf } from './inputs.ts';
import { alphaOf, bare, layersBlock } from './layerPicture.ts';
import { type Means, saysOfSheet } from './means.ts';
import type { Derived } from './spec.ts';

/** What a finish of a layer follows. */
function followed(means: Means, sheet: Sheet, layer: Layer): Followed {
	const whole = sheetRect(sheet);
	const shape = (rect: Rect): Block => {
		const block = layersBlock(means, sheet, [bare(layer)], rect);
		return { rect, bytes: 1, data: alphaOf(block) };
	};
	return {
		shape,
		wholeShape() {
			const tiles = { cols: Math.ceil(sheet.width / TILE), rows: Math.ceil(sheet.height / TILE) };
			let box: Rect = { x: 0, y: 0, width: 0, height: 0 };
			const all = shape(whole);
			for (let tile = 0; tile < tiles.cols * tiles.rows; tile++) {
				const rect = meet(tileRect(tiles, tile), whole);
				if (cutBlock(all, rect).some((v) => v >= 128)) box = around(box, rect);
			}
			return { rect: box, bytes: 1, data: isEmptyRect(box) ? new Uint8Array(0) : cutBlock(all, box) };
		},
		island(island) {
			const scene = sceneOfSheet(means.scenes, sheet.id);
			if (!scene) return null;
			const box = islandRect(scene, sheet, island);
			const faces = modelGround(scene, sheet).facesIn(box, 1);
			const inside = scene.mapOf(sheet).faceOfTexel;
			const data = Uint8Array.from(faces, (face, i) => {
				const texel = (box.y + Math.floor(i / box.width)) * sheet.width + box.x + (i % box.width);
				return face >= 0 && inside[texel] && scene.topology.islandOfFace[face] === island ? 255 : 0;
			});
			return { rect: box, bytes: 1, data };
		},
		hidden(rect) {
			const mask = means.surfaces.get(maskIdOf(layer));
			return mask !== undefined && tilesOfRect(mask, rect).every((tile) => mask.kinds[tile] === Kind.empty);
		},
		picture: means.pictures.stencil,
		onSheet: (rect) => meet(rect, whole),
	};
}

/** A finish's texels on a layer, computed as its kind says. */
export function finishNode(means: Means, sheet: Sheet, layer: Layer, finish: AnyFinish, texels: FinishTexels): Derived {
	const { opacity: _opacity, mode: _mode, ...says } = finish;
	const of = followed(means, sheet, layer);
	const { reads, reach, reset } = texels;
	const here = (texels.pictures ?? []).map((id) => means.pictures.hasStencil(id));
	const mask = maskIdOf(layer);
	return {
		id: finishIdOf(layer, finish),
		format: 'color',
		key: JSON.stringify([says, here, saysOfSheet(means, sheet), ...(reads === 'mask' ? [] : [outlineOf(bare(layer))])]),
		inputs: reads === 'shape' ? imageInputs(bare(layer)) : reads === 'mask' && mask ? [mask] : [],
		reach,
		...(reset ? { reset } : {}),
		make: (rect) => texels.make(rect, of),
	};
}
