import { colorWords, rgbOfHex } from '../color/index.ts';
import { CommandError, guardLets, kindOf, type Layer, layerOf, ownSurfaceOf } from '../document/index.ts';
import { type Edit, editKindOf, fillRecord, sheetSpace } from '../edit/index.ts';
import { pictureIntoSurface, type Surface, type TileRecord } from '../surface/index.ts';
import { merged } from './dirty.ts';
import type { Engine } from './engine.ts';
import { pointersOf } from './indexed.ts';
import { callLayer, isUncalled } from './naming.ts';
import { guardRefusal } from './plan.ts';
import { type Refusal, whyNotPaint } from './refusal.ts';
import { scopeOf, selectionScope } from './scope.ts';
import { surfaceFor } from './strokeSpec.ts';
import { makeWhole } from './whole.ts';
import type { Workspace } from './workspace.ts';

type Pixels = Pick<Engine, 'fill' | 'edit' | 'lay'>;

/** An edit as it is on a pixel sheet: what moves lands on whole texels. */
const hardEdit = (edit: Edit): Edit => (edit.do === 'transform' ? { ...edit, smooth: false } : edit);

/** Changes of a layer's pixels at once. */
export function pixels(workspace: Workspace): Pixels {
	const { kernels, surfaces, need, sceneOf, run, pushRecord, retake, unders } = workspace;
	const facet: Pixels = {
		fill(sheetId, layerId, x, y, color, { guard = null, onMask = false, by = 'island' } = {}) {
			const sheet = need(sheetId);
			const layer = layerOf(sheet, layerId);
			const change = layer && !layer.locked && !onMask ? kindOf(layer).filled?.(layer, color) : null;
			if (layer && change)
				return { ok: true, dirty: run({ do: 'layer.change', sheet: sheet.id, layer: layer.id, change }) };
			const refusal = whyNotPaint(workspace.project, sheetId, layerId, onMask);
			if (refusal || !layer) return { ok: false, refusal: refusal as Refusal };
			const surface = surfaces.get(surfaceFor(layer, onMask)) as Surface;
			const scene = sceneOf(sheet.id);
			const spot = scene?.spotOn(sheet, null, x, y);
			const guarded = guardRefusal(guard, spot ?? null, scene !== undefined);
			if (guarded) return { ok: false, refusal: guarded };
			if (sheet.selection) return facet.edit(sheetId, layerId, { do: 'fill', color }, { onMask, guard });
			const islandOf = (face: number): number => scene?.topology.islandOfFace[face] as number;
			const meant = (face: number): boolean =>
				by === 'part' ? scene?.partOfFace(face) === spot?.part : islandOf(face) === spot?.island;
			const lets = (face: number): boolean =>
				!guard || !scene || guardLets(guard, face, scene.partOfFace(face), islandOf(face));
			const on = spot &&
				scene && {
					map: scene.mapOf(sheet),
					faces: scene.mesh.indices.length / 3,
					has: (face: number) => meant(face) && lets(face),
				};
			if (guard?.tone && on) {
				const faces = Array.from({ length: on.faces }, (_, face) => face).filter(on.has);
				const within = { ...guard, way: 'only' as const, parts: [], islands: [], faces };
				return facet.edit(sheetId, layerId, { do: 'fill', color }, { onMask, guard: within });
			}
			unders.drop();
			const uncalled = !onMask && isUncalled(workspace, layer);
			const record = fillRecord(kernels, surface, on ?? null, rgbOfHex(color), layer.lockAlpha);
			makeWhole(workspace, sheet, layer, [record], color);
			const call = uncalled ? callLayer(workspace, sheet.id, layer.id, `${colorWords(color)} fill`, record) : null;
			const piece = by === 'part' ? `"${scene?.model.parts[spot?.part ?? -1]?.name}"` : 'an island';
			const words = on ? `Fill ${piece} on "${layer.name}"` : `Fill "${layer.name}"`;
			return { ok: true, dirty: pushRecord(words, [record], sheet.id, undefined, call ? [call] : []) };
		},
		edit(sheetId, layerId, edit, { onMask = false, guard = null, gesture } = {}) {
			const sheet = need(sheetId);
			const layer = layerOf(sheet, layerId) as Layer;
			const kind = editKindOf(edit);
			const moves = kind.moves === true;
			const whole = scopeOf(workspace, sheet, layerId, { onMask, guard, moves }, sheetSpace);
			if ('code' in whole) return { ok: false, refusal: whole };
			unders.drop();
			const back = retake(gesture);
			const { selection } = whole;
			const uncalled = !onMask && isUncalled(workspace, layerOf(need(sheetId), layerId));
			const records = [kind.apply(whole.strict ? hardEdit(edit) : edit, whole)];
			makeWhole(workspace, sheet, layer, records, edit);
			const pointers = moves && !onMask ? surfaces.get(pointersOf(layer) ?? '') : undefined;
			if (pointers)
				records.push(
					kind.apply(hardEdit(edit), { ...whole, surface: pointers, space: sheetSpace(pointers), lockAlpha: false }),
				);
			// What is selected moves along with what is in it.
			if (moves && selection) records.push(kind.apply(edit, selectionScope(whole, sheetSpace)));
			const words = kind.words(edit, `${onMask ? 'the mask of ' : ''}"${layer.name}"`);
			const what = uncalled && records[0] ? kind.called?.(edit) : undefined;
			const call = what ? callLayer(workspace, sheetId, layer.id, what, records[0] as TileRecord) : null;
			const dirty = merged([back, pushRecord(words, records, sheetId, gesture, call ? [call] : [])]);
			if ([...(dirty.get(sheetId) ?? [])].length === 0 && !moves)
				return {
					ok: false,
					refusal: { code: 'nothing-there', text: `There is nothing on "${layer.name}" here to change.`, mend: null },
				};
			return { ok: true, dirty };
		},
		lay(sheetId, layerId, on, picture, words) {
			const layer = layerOf(need(sheetId), layerId);
			const id = on === 'mask' ? layer?.mask?.surface : layer && ownSurfaceOf(layer);
			const surface = surfaces.get(id ?? '');
			if (!surface) throw new CommandError('That layer has nothing to lay a picture on. Nothing was changed.');
			unders.drop();
			return pushRecord(words, [pictureIntoSurface(kernels, picture, surface, 'other')], sheetId);
		},
	};
	return facet;
}
