import { type Layer, type Sheet, sheetRect } from '../document/index.ts';
import { type Finish, outlineBlock, outlineReach, stitchBlock, stitchThreads, type Thread } from '../finish/index.ts';
import {
	around,
	type Block,
	grownRect,
	isEmptyRect,
	meet,
	pathCoverage,
	pathRect,
	type Rect,
	tileRect,
	tilesOfRect,
} from '../raster/index.ts';
import { islandRect, modelGround, sceneOfSheet } from '../scene/index.ts';
import { Kind, TILE } from '../surface/index.ts';
import { fillBlock } from '../wash/index.ts';
import { finishIdOf, maskIdOf } from './derivedId.ts';
import { cut, imageInputs, outlineOf } from './inputs.ts';
import { alphaOf, bare, layersBlock } from './layerPicture.ts';
import type { Means } from './means.ts';
import type { Derived } from './spec.ts';

export function finishNode(means: Means, sheet: Sheet, layer: Layer, finish: Finish): Derived | null {
	const own = bare(layer);
	const plain = { id: finishIdOf(layer, finish), format: 'color' as const };
	const shape = (rect: Rect): Block => {
		const block = layersBlock(means, sheet, [own], rect);
		return { rect, bytes: 1, data: alphaOf(block) };
	};
	if (finish.finish === 'tint') return null;
	const { opacity: _o, mode: _m, ...says } = finish;
	if (finish.finish === 'pattern') {
		const { fill } = finish;
		const here = Boolean(means.pictures.stencil(fill.picture));
		return {
			...plain,
			key: JSON.stringify([says, here]),
			inputs: maskIdOf(layer) ? [maskIdOf(layer)] : [],
			reach: 0,
			make(rect) {
				// Where the layer's mask hides all there is nothing to lie on.
				const mask = means.surfaces.get(maskIdOf(layer));
				const hidden = mask && tilesOfRect(mask, rect).every((tile) => mask.kinds[tile] === Kind.empty);
				return hidden ? null : fillBlock(fill, rect, means.pictures.stencil);
			},
		};
	}
	const key = JSON.stringify([says, outlineOf(own)]);
	if (finish.finish === 'outline') {
		const reach = outlineReach(finish);
		return {
			...plain,
			key,
			inputs: imageInputs(own),
			reach,
			make(rect) {
				return outlineBlock(finish, shape(grownRect(rect, reach)), rect);
			},
		};
	}
	let threads: Thread[] | null = null;
	const follow = (): Thread[] => {
		const { along } = finish;
		if (along === 'shape') {
			const tiles = { cols: Math.ceil(sheet.width / TILE), rows: Math.ceil(sheet.height / TILE) };
			let box: Rect = { x: 0, y: 0, width: 0, height: 0 };
			const tone = shape(sheetRect(sheet)).data;
			for (let tile = 0; tile < tiles.cols * tiles.rows; tile++) {
				const rect = meet(tileRect(tiles, tile), sheetRect(sheet));
				if (cut(tone, sheetRect(sheet), rect).some((v) => v >= 128)) box = around(box, rect);
			}
			return isEmptyRect(box) ? [] : stitchThreads(finish, cut(tone, sheetRect(sheet), box), box);
		}
		if ('lines' in along) {
			const path = along.lines.map((line) => Float64Array.from(line));
			const box = meet(pathRect(path), sheetRect(sheet));
			return isEmptyRect(box) ? [] : stitchThreads(finish, pathCoverage(path, box), box);
		}
		const scene = sceneOfSheet(means.scenes, sheet.id);
		if (!scene) return [];
		const chosen = new Set(along);
		return along.flatMap((island) => {
			if (!chosen.delete(island)) return [];
			const box = islandRect(scene, sheet, island);
			const faces = modelGround(scene, sheet).facesIn(box, 1);
			const inside = scene.mapOf(sheet).faceOfTexel;
			const tone = Uint8Array.from(faces, (face, i) => {
				const texel = (box.y + Math.floor(i / box.width)) * sheet.width + box.x + (i % box.width);
				return face >= 0 && inside[texel] && scene.topology.islandOfFace[face] === island ? 255 : 0;
			});
			return stitchThreads(finish, tone, box);
		});
	};
	return {
		...plain,
		key,
		inputs: finish.along === 'shape' ? imageInputs(own) : [],
		reach: Infinity,
		reset() {
			threads = null;
		},
		make(rect) {
			threads ??= follow();
			return stitchBlock(finish, threads, rect);
		},
	};
}
