import { luma, rgbOfHex } from '../color/index.ts';
import { bakeIdOf, fillIdOf, groundOf, layersBlock, stackOf } from '../derive/index.ts';
import { allTiles, belowOf, kindOf, layerOf, ownSurfaceOf } from '../document/index.ts';
import { meanColor } from '../edit/index.ts';
import { recipeField, toneOfField, withPlanes } from '../recipe/index.ts';
import { letterPlace } from '../scene/index.ts';
import { TILE, texelAt, tileBytes } from '../surface/index.ts';
import { deepPicture } from './deepPicture.ts';
import { none } from './dirty.ts';
import type { Engine } from './engine.ts';
import { seenOn, seenTile } from './focus.ts';
import { missedShare } from './missedShare.ts';
import { reliefPicture } from './reliefPicture.ts';
import type { stroking } from './strokes.ts';
import type { Workspace } from './workspace.ts';

type Reading = Pick<
	Engine,
	| 'look'
	| 'buildUp'
	| 'compositeTile'
	| 'compositeWork'
	| 'composite'
	| 'sample'
	| 'histogram'
	| 'letterPlace'
	| 'recipeSteps'
	| 'bakeStates'
	| 'bakePicture'
	| 'reliefPicture'
	| 'bakeMissed'
>;

/** What an engine shows and tells. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: a facet of the engine: one method after the other over one workspace.
export function reading(workspace: Workspace, strokes: Pick<ReturnType<typeof stroking>, 'on'>): Reading {
	const { kernels, compositor, surfaces, means, need, sceneOf, settle, pictureOf, unders } = workspace;
	const { heap } = kernels;

	const reads: Reading = {
		look(sheetId, next) {
			const sheet = need(sheetId);
			const before = workspace.seen;
			if (!before && !next) return none;
			workspace.seen = next && { ...next, sheet: sheetId };
			const changed = workspace.project.sheets.filter(
				({ id }) => id === sheet.id || seenOn(before, id) || seenOn(workspace.seen, id),
			);
			return new Map(changed.map((each) => [each.id, allTiles(each)]));
		},
		buildUp(sheetId, visit) {
			const sheet = need(sheetId);
			sheet.layers.forEach((layer, i) => {
				if (layer.shown) visit(pictureOf({ ...sheet, layers: sheet.layers.slice(0, i + 1) }), layer.name);
			});
		},
		compositeTile(sheetId, tile, out) {
			const sheet = need(sheetId);
			const { seen } = workspace;
			const painted = strokes.on(sheetId);
			if (seen && seenOn(seen, sheetId) && seenTile(kernels, compositor, surfaces, sheet, seen, tile, out)) return;
			compositor.tile(
				stackOf(sheet, surfaces).layers,
				tile,
				out,
				painted === undefined ? undefined : unders.of(sheet, painted),
			);
		},
		compositeWork(sheetId, tiles) {
			const sheet = need(sheetId);
			// What is looked at alone, and what is being painted, has ways of its own.
			if (seenOn(workspace.seen, sheetId) || strokes.on(sheetId) !== undefined) return null;
			return { job: 'composite', layers: stackOf(sheet, surfaces).layers, tiles };
		},
		composite: (sheetId) => pictureOf(need(sheetId)),
		sample(sheetId, x, y, layerId, size = 1) {
			const sheet = need(sheetId);
			const layer = layerOf(sheet, layerId);
			const plain = layer && kindOf(layer).plain?.(layer);
			if (plain) return [...rgbOfHex(plain), 255];
			const own = layer && surfaces.get(ownSurfaceOf(layer) ?? fillIdOf(layer));
			const out = heap.alloc(tileBytes('color'));
			let ready = -1;
			const texel = (tx: number, ty: number): readonly [number, number, number, number] => {
				if (tx < 0 || ty < 0 || tx >= sheet.width || ty >= sheet.height) return [0, 0, 0, 0];
				if (own) return texelAt(heap, own, tx, ty);
				const tile = Math.floor(ty / TILE) * Math.ceil(sheet.width / TILE) + Math.floor(tx / TILE);
				if (tile !== ready) reads.compositeTile(sheetId, tile, out);
				ready = tile;
				const at = out + ((ty % TILE) * TILE + (tx % TILE)) * 4;
				return [...heap.u8.subarray(at, at + 4)] as [number, number, number, number];
			};
			const color = meanColor(x, y, size, texel);
			heap.free(out, tileBytes('color'));
			return color;
		},
		histogram(sheetId, layerId) {
			const sheet = need(sheetId);
			settle(sheetId);
			const layer = layerOf(sheet, layerId);
			const rect = { x: 0, y: 0, width: sheet.width, height: sheet.height };
			const looked = !layer
				? sheet.layers
				: !kindOf(layer).finishes
					? belowOf(sheet, layer.id)
					: [{ ...layer, shown: true, clip: false }];
			const { data } = layersBlock(means, sheet, looked, rect);
			const counts = new Uint32Array(4 * 256);
			const count = (at: number): void => {
				counts[at] = (counts[at] as number) + 1;
			};
			for (let i = 0; i < data.length; i += 4) {
				if ((data[i + 3] as number) < 8) continue;
				const [r, g, b] = [data[i] as number, data[i + 1] as number, data[i + 2] as number];
				count(Math.round(luma(r, g, b)));
				count(256 + r);
				count(512 + g);
				count(768 + b);
			}
			return counts;
		},
		letterPlace(sheetId, x, y) {
			const scene = sceneOf(sheetId);
			return scene ? letterPlace(scene, need(sheetId), x, y) : null;
		},
		bakeStates: () =>
			workspace.project.models.flatMap(({ parts, bakes }) =>
				(bakes ?? []).flatMap(({ id }) =>
					workspace.project.sheets
						.filter((sheet) => parts.some((part) => part.sheet === sheet.id))
						.map((sheet) => ({
							bake: id,
							sheet: sheet.id,
							left: workspace.derivation.leftOf(bakeIdOf(id, sheet)),
							all: allTiles(sheet).length,
						})),
				),
			),
		bakeMissed: (bake) => missedShare(workspace, bake),
		bakePicture: (sheetId, bakeId) => deepPicture(workspace, need(sheetId), bakeId),
		reliefPicture: (sheetId, look) => reliefPicture(workspace, need(sheetId), look),
		recipeSteps(sheetId, layerId, side) {
			const sheet = need(sheetId);
			const layer = layerOf(sheet, layerId);
			const recipe = layer?.mask?.recipe ?? [];
			if (!layer) return [];
			const step = Math.max(sheet.width, sheet.height) / side;
			const rect = { x: 0, y: 0, width: sheet.width, height: sheet.height };
			return withPlanes(kernels, (planes) => {
				const ground = groundOf(means, planes, sheet, layer, rect, step);
				const cells = ground.width * ground.height;
				let start: { readonly from: number; readonly field: Float32Array } | undefined;
				return recipe.map((_, i) => {
					const field = recipeField(recipe, ground, i + 1, start);
					start = { from: i + 1, field: planes.floats(field, cells) };
					return toneOfField(ground, field);
				});
			});
		},
	};
	return reads;
}
