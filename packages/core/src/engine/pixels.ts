import { rgbOfHex } from '../color/index.ts';
import { ownMaskIdOf, stackOf } from '../derive/index.ts';
import {
	type Command,
	CommandError,
	type GroupLayer,
	guardLets,
	type Id,
	type Layer,
	layerOf,
	paintLayer,
	placeOfLayer,
	type Sheet,
	surfacesOfLayer,
} from '../document/index.ts';
import {
	applyEdit,
	clipOf,
	editWords,
	fillMask,
	fillRecord,
	invertMask,
	maskIntoAlpha,
	placedClip,
	wholeSelection,
} from '../edit/index.ts';
import { type readBlock, writeBlock } from '../raster/index.ts';
import { modelGround } from '../scene/index.ts';
import {
	createRecord,
	createSurface,
	pictureIntoSurface,
	pictureOfSurface,
	type Surface,
	setTileState,
	settleTile,
	tileBytes,
} from '../surface/index.ts';
import { type Dirty, merged } from './dirty.ts';
import type { Engine } from './engine.ts';
import { guardRefusal } from './plan.ts';
import { type Refusal, whyNotPaint } from './refusal.ts';
import { surfaceFor } from './strokeSpec.ts';
import type { Core } from './workspace.ts';

type Changing = Pick<Engine, 'fill' | 'edit' | 'changeMask' | 'mergeDown' | 'flatten' | 'lay' | 'clip' | 'paste'>;

/** What an engine changes at once: pixels, masks, whole layers. */
export function changing(core: Core): Changing {
	const {
		kernels,
		compositor,
		surfaces,
		history,
		need,
		sceneOf,
		selectionOf,
		carry,
		run,
		pushRecord,
		retake,
		markChanged,
		markWhole,
		settle,
		pictureOf,
		dropUnders,
	} = core;
	const { heap } = kernels;
	const needScope = (sheet: Sheet, layerId: Id | undefined, onMask: boolean): Refusal | Surface => {
		const refusal = whyNotPaint(core.project, sheet.id, layerId, onMask);
		const layer = layerOf(sheet, layerId);
		return refusal ?? (surfaces.get(surfaceFor(layer as Layer, onMask)) as Surface);
	};
	/** Puts a new paint layer, holding what the given layers look like together, in their place. */
	const replaceBy = (
		sheet: Sheet,
		layers: readonly Layer[],
		flat: ReturnType<typeof paintLayer>,
		words: string,
		parent: GroupLayer | null,
	): Dirty => {
		settle(sheet.id);
		const stack = stackOf({ ...sheet, base: null, layers }, surfaces).layers;
		const surface = createSurface(flat.surface, 'color', sheet.width, sheet.height);
		for (let tile = 0; tile < surface.kinds.length; tile++) {
			const at = heap.alloc(tileBytes('color'));
			compositor.tile(stack, tile, at);
			setTileState(surface, tile, settleTile(kernels, 'color', at));
		}
		surfaces.set(surface.id, surface);
		markWhole(surface);
		const ids = new Set(layers.map((each) => each.id));
		const put = (among: readonly Layer[]): Layer[] =>
			among.flatMap((each) => (each.id === layers[0]?.id ? [flat] : ids.has(each.id) ? [] : [each]));
		const swap = (among: readonly Layer[]): Layer[] =>
			among.map((each) =>
				each.kind !== 'group'
					? each
					: { ...each, layers: each.id === parent?.id ? put(each.layers) : swap(each.layers) },
			);
		const next = parent ? swap(sheet.layers) : put(sheet.layers);
		return run({ do: 'layers.set', sheet: sheet.id, layers: next, words });
	};

	const edits: Changing = {
		fill(sheetId, layerId, x, y, color, guard, onMask = false) {
			const sheet = need(sheetId);
			const layer = layerOf(sheet, layerId);
			if (layer?.kind === 'wash' && !layer.locked && !onMask)
				return {
					ok: true,
					dirty: run({
						do: 'layer.change',
						sheet: sheet.id,
						layer: layer.id,
						change: { color, ...(layer.fill ? { fill: null } : {}) },
					}),
				};
			const refusal = whyNotPaint(core.project, sheetId, layerId, onMask);
			if (refusal || !layer) return { ok: false, refusal: refusal as Refusal };
			const surface = surfaces.get(surfaceFor(layer, onMask)) as Surface;
			const scene = sceneOf(sheet.id);
			const spot = scene?.spotOn(sheet, null, x, y);
			const guarded = guardRefusal(guard, spot ?? null, scene !== undefined);
			if (guarded) return { ok: false, refusal: guarded };
			if (sheet.selection) return edits.edit(sheetId, layerId, { do: 'fill', color }, { onMask, guard: guard ?? null });
			const island = spot && scene ? { map: scene.mapOf(sheet), topology: scene.topology, island: spot.island } : null;
			dropUnders();
			const record = fillRecord(kernels, surface, island, rgbOfHex(color), layer.lockAlpha);
			return {
				ok: true,
				dirty: pushRecord(island ? `Fill an island on "${layer.name}"` : `Fill "${layer.name}"`, [record], sheet.id),
			};
		},
		edit(sheetId, layerId, edit, { onMask = false, guard = null, gesture } = {}) {
			const sheet = need(sheetId);
			const scope = needScope(sheet, layerId, onMask);
			if ('code' in scope) return { ok: false, refusal: scope };
			const layer = layerOf(sheet, layerId) as Layer;
			const scene = sceneOf(sheetId);
			dropUnders();
			const back = retake(gesture);
			const moves = edit.do === 'transform';
			const selection = selectionOf(sheet);
			const ground = {
				kernels,
				surface: scope,
				selection,
				lockAlpha: layer.lockAlpha && !moves,
				guarded:
					guard && scene
						? (rect: Parameters<typeof readBlock>[2]) =>
								Uint8Array.from(modelGround(scene, sheet).facesIn(rect, 1), (face) =>
									face >= 0 &&
									guardLets(guard, face, scene.partOfFace(face), scene.topology.islandOfFace[face] as number)
										? 255
										: 0,
								)
						: null,
				picture: () => pictureOf(sheet),
			};
			const records = [applyEdit(edit, ground)];
			// What is selected moves along with what is in it.
			if (moves && selection)
				records.push(
					applyEdit(edit, { ...ground, surface: selection, selection: undefined, lockAlpha: false, guarded: null }),
				);
			const words = editWords(edit, `${onMask ? 'the mask of ' : ''}"${layer.name}"`);
			const dirty = merged([back, pushRecord(words, records, sheetId, gesture)]);
			if ([...(dirty.get(sheetId) ?? [])].length === 0 && !moves)
				return {
					ok: false,
					refusal: { code: 'nothing-there', text: `There is nothing on "${layer.name}" here to change.`, mend: null },
				};
			return { ok: true, dirty };
		},
		changeMask(sheetId, layerId, change) {
			const sheet = need(sheetId);
			const layer = layerOf(sheet, layerId);
			const mask = surfaces.get(layer?.mask?.surface ?? '');
			if (!layer || !mask) throw new CommandError('That layer has no mask. Nothing was changed.');
			dropUnders();
			if (change.to === 'selection') {
				const record = createRecord(mask);
				const data = wholeSelection(kernels, sheet, selectionOf(sheet));
				writeBlock(kernels, record, { rect: { x: 0, y: 0, width: sheet.width, height: sheet.height }, bytes: 1, data });
				return pushRecord(`Mask "${layer.name}" by the selection`, [record], sheetId);
			}
			if (change.to === 'painted') {
				settle(sheetId);
				const made = surfaces.get(ownMaskIdOf(layer));
				if (!layer.mask || !made || made === mask)
					throw new CommandError(`The mask of "${layer.name}" has no recipe. Nothing was changed.`);
				const record = pictureIntoSurface(kernels, pictureOfSurface(kernels, made), mask);
				const command: Command = {
					do: 'layer.change',
					sheet: sheetId,
					layer: layerId,
					change: { mask: { ...layer.mask, recipe: null } },
				};
				const { inverse, dirty } = carry(command);
				history.push({
					words: `Paint over the mask of "${layer.name}"`,
					undo: [inverse],
					redo: [command],
					records: [record],
				});
				markChanged(record);
				return merged([dirty, new Map([[sheetId, [...record.tiles.keys()]]])]);
			}
			if (change.to === 'pixels') {
				settle(sheetId);
				if (layer.kind !== 'paint')
					throw new CommandError(`Only a paint layer has pixels that a mask can become. Nothing was changed.`);
				const counts = surfaces.get(ownMaskIdOf(layer)) ?? mask;
				const record = maskIntoAlpha(kernels, surfaces.get(layer.surface) as Surface, counts);
				const command: Command = { do: 'layer.change', sheet: sheetId, layer: layerId, change: { mask: null } };
				const { inverse, dirty } = carry(command);
				history.push({
					words: `Turn the mask of "${layer.name}" into pixels`,
					undo: [inverse],
					redo: [command],
					records: [record],
				});
				markChanged(record);
				return merged([dirty, new Map([[sheetId, [...record.tiles.keys()]]])]);
			}
			const record = change.to === 'value' ? fillMask(kernels, mask, change.value) : invertMask(kernels, mask);
			return pushRecord(
				`${change.to === 'inverse' ? 'Invert' : 'Fill'} the mask of "${layer.name}"`,
				[record],
				sheetId,
			);
		},
		mergeDown(sheetId, layerId, newId) {
			const sheet = need(sheetId);
			const place = placeOfLayer(sheet, layerId);
			const [upper, lower] = place ? [place.among[place.at], place.among[place.at - 1]] : [];
			if (!place || !upper || !lower)
				throw new CommandError('There is no layer below to merge with. Nothing was changed.');
			if (lower.mode !== 'normal' || lower.clip || !lower.shown || !upper.shown || lower.kind === 'adjust')
				throw new CommandError(
					`"${lower.name}" and "${upper.name}" cannot become one and look the same: both must be shown, and the lower one blend Normal and not be clipped. Nothing was changed.`,
				);
			return replaceBy(
				sheet,
				[lower, upper],
				paintLayer(newId, lower.name),
				`Merge "${upper.name}" down`,
				place.parent,
			);
		},
		flatten(sheetId, groupId, newId) {
			const sheet = need(sheetId);
			const place = placeOfLayer(sheet, groupId);
			const group = place?.among[place.at];
			if (!place || group?.kind !== 'group') throw new CommandError('That is no group. Nothing was changed.');
			const { name, mode, opacity, clip, shown, mask } = group;
			// What finishes follow is the shape that the mask leaves: then the mask is laid in too.
			const finished = (group.finishes ?? []).some((finish) => finish.on);
			const inner = {
				...group,
				opacity: 1,
				mode: 'normal' as const,
				clip: false,
				shown: true,
				mask: finished ? mask : null,
				isolated: true,
			};
			const flat = paintLayer(newId, name, { mode, opacity, clip, shown, mask: finished ? null : mask });
			return replaceBy(sheet, [inner], flat, `Flatten "${name}"`, place.parent);
		},
		lay(sheetId, layerId, on, picture, words) {
			const layer = layerOf(need(sheetId), layerId);
			const id = on === 'mask' ? layer?.mask?.surface : layer?.kind === 'paint' ? layer.surface : undefined;
			const surface = surfaces.get(id ?? '');
			if (!surface) throw new CommandError('That layer has nothing to lay a picture on. Nothing was changed.');
			dropUnders();
			return pushRecord(words, [pictureIntoSurface(kernels, picture, surface)], sheetId);
		},
		clip(sheetId, layerId) {
			const sheet = need(sheetId);
			const layer = layerOf(sheet, layerId);
			if (!layer) throw new CommandError('That layer is not here any more. Nothing was taken up.');
			const selection = selectionOf(sheet);
			return clipOf(kernels, sheet, layer, surfaces, selection ? wholeSelection(kernels, sheet, selection) : null);
		},
		paste(clip, sheetId, at, parent, newId) {
			const sheet = need(sheetId);
			const { layer, pictures: texels } = placedClip(clip, sheet, newId);
			for (const { id, format } of surfacesOfLayer(layer))
				surfaces.set(id, createSurface(id, format, sheet.width, sheet.height));
			for (const { surface: id, picture } of texels) {
				const surface = surfaces.get(id);
				if (!surface) continue;
				pictureIntoSurface(kernels, picture, surface);
				markWhole(surface);
			}
			return { layer: layer.id, dirty: run({ do: 'layer.add', sheet: sheetId, layer, at, parent }) };
		},
	};
	return edits;
}
