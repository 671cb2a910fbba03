import { fillIdOf, isComputed, layersBlock, ownMaskIdOf } from '../derive/index.ts';
import { type Command, type Id, layerOf, type Sheet } from '../document/index.ts';
import { selectedTone, selectionIdOf, transform, wholeSelection } from '../edit/index.ts';
import { contentTiles, isEmptyRect, readBlock, writeBlock } from '../raster/index.ts';
import { linesOnModel } from '../scene/index.ts';
import { changedSelection, contourOf, joined } from '../select/index.ts';
import { createRecord, type Picture, type Surface, type TileRecord } from '../surface/index.ts';
import { type Dirty, none } from './dirty.ts';
import type { Engine } from './engine.ts';
import { surfaceFor } from './strokeSpec.ts';
import type { Workspace } from './workspace.ts';

/** What an engine selects. */
export function selecting(
	workspace: Workspace,
): Pick<Engine, 'select' | 'changeSelection' | 'selectionLines' | 'moveSelection' | 'selectionOnModel' | 'bounds'> {
	const {
		kernels,
		surfaces,
		means,
		history,
		need,
		sceneOf,
		selectionOf,
		carry,
		pushRecord,
		retake,
		markChanged,
		settle,
		pictureOf,
	} = workspace;
	/** Puts a whole selection, A8, in place as one step. */
	const putSelection = (sheet: Sheet, tone: Uint8Array, words: string, gesture?: string): Dirty => {
		const back = retake(gesture);
		const id = sheet.selection ?? selectionIdOf(sheet);
		const any = tone.some((v) => v > 0);
		const command: Command = { do: 'selection.set', sheet: sheet.id, selection: any ? id : null, words };
		const same = (sheet.selection ?? null) === command.selection;
		const carried = same ? null : carry(command);
		const records: TileRecord[] = [];
		const surface = surfaces.get(id);
		if (any && surface) {
			const record = createRecord(surface);
			writeBlock(kernels, record, {
				rect: { x: 0, y: 0, width: sheet.width, height: sheet.height },
				bytes: 1,
				data: tone,
			});
			records.push(record);
			markChanged(record);
		}
		if (!carried && records.length === 0) return back;
		history.push({
			words,
			undo: carried ? [carried.inverse] : [],
			redo: carried ? [command] : [],
			records,
			...(gesture ? { gesture } : {}),
		});
		return back;
	};

	return {
		select(sheetId, by, joining) {
			const sheet = need(sheetId);
			const rect = { x: 0, y: 0, width: sheet.width, height: sheet.height };
			// Shapes ask for no picture: they need not wait for what is still to be computed.
			const blockOf = (id: Id | null): Picture => {
				settle(sheetId);
				const layer = layerOf(sheet, id ?? undefined);
				if (!layer) return pictureOf(sheet);
				const { data } = layersBlock(means, sheet, [{ ...layer, shown: true, clip: false }], rect);
				return { width: sheet.width, height: sheet.height, data };
			};
			const tone = selectedTone(by, sheet, sceneOf(sheetId), blockOf, (id, of) => {
				const layer = layerOf(sheet, id);
				if (!layer) return null;
				if (of === 'shape') {
					const { data } = blockOf(id);
					return Uint8Array.from({ length: data.length / 4 }, (_, i) => data[i * 4 + 3] as number);
				}
				settle(sheetId);
				const mask = surfaces.get(ownMaskIdOf(layer));
				return mask ? readBlock(kernels, mask, rect).data : null;
			});
			if (!tone)
				return {
					ok: false,
					refusal: {
						code: by.by === 'layer' ? 'no-mask' : 'off-model',
						text:
							by.by === 'layer'
								? 'That layer has no mask to select by.'
								: 'There is nothing of the model here to select.',
						mend: null,
					},
				};
			const selection = selectionOf(sheet);
			const was = selection ? readBlock(kernels, selection, rect).data : new Uint8Array(tone.length);
			const words = {
				replace: 'Select',
				add: 'Add to the selection',
				take: 'Take from the selection',
				meet: 'Keep only what is selected twice',
			};
			// With nothing selected there is nothing to take from or to meet: all is.
			if (!selection && (joining === 'take' || joining === 'meet')) was.fill(255);
			return { ok: true, dirty: putSelection(sheet, joined(was, tone, joining), words[joining]) };
		},
		changeSelection(sheetId, change) {
			const sheet = need(sheetId);
			const selection = selectionOf(sheet);
			const rect = { x: 0, y: 0, width: sheet.width, height: sheet.height };
			const was = selection ? readBlock(kernels, selection, rect).data : new Uint8Array(sheet.width * sheet.height);
			const words = {
				all: 'Select all',
				none: 'Select nothing',
				inverse: 'Invert the selection',
				grown: 'Grow the selection',
				soft: 'Soften the selection',
				border: 'Select the border',
			};
			if (!selection && change.to === 'none') return { ok: true, dirty: none };
			return {
				ok: true,
				dirty: putSelection(
					sheet,
					changedSelection(was, sheet.width, sheet.height, change),
					change.to === 'grown' && change.by < 0 ? 'Shrink the selection' : words[change.to],
				),
			};
		},
		selectionLines(sheetId) {
			const sheet = need(sheetId);
			const selection = selectionOf(sheet);
			if (!selection) return [];
			const box = contentTiles(selection);
			return contourOf(readBlock(kernels, selection, box).data, box.width, box.height).map((line) =>
				line.map((v, i) => v + (i % 2 ? box.y : box.x)),
			);
		},
		moveSelection(sheetId, map, gesture) {
			const sheet = need(sheetId);
			if (!selectionOf(sheet)) return { ok: true, dirty: none };
			const back = retake(gesture);
			const surface = selectionOf(need(sheetId)) as Surface;
			const record = transform.apply(
				{ do: 'transform', map, smooth: true },
				{
					kernels,
					surface,
					selection: undefined,
					lockAlpha: false,
					guarded: null,
					picture: () => pictureOf(need(sheetId)),
				},
			);
			pushRecord('Move the selection', [record], sheetId, gesture);
			return { ok: true, dirty: back };
		},
		selectionOnModel(sheetId) {
			const scene = sceneOf(sheetId);
			const sheet = need(sheetId);
			const selection = selectionOf(sheet);
			return scene && selection
				? linesOnModel(scene, sheet, wholeSelection(kernels, sheet, selection))
				: new Float32Array(0);
		},
		bounds(sheetId, layerId, onMask) {
			const sheet = need(sheetId);
			const layer = layerOf(sheet, layerId);
			// Lettering moves as a whole, whatever is selected.
			const computed = layer && isComputed(layer) && !onMask;
			if (computed) settle(sheetId);
			const surface = computed
				? surfaces.get(fillIdOf(layer))
				: (selectionOf(sheet) ?? (layer && surfaces.get(surfaceFor(layer, onMask))));
			if (!surface) return null;
			const box = contentTiles(surface);
			if (isEmptyRect(box)) return null;
			const { data, bytes } = readBlock(kernels, surface, box);
			let [x0, y0, x1, y1] = [Infinity, Infinity, -1, -1];
			for (let i = 0; i < box.width * box.height; i++) {
				if (!data[i * bytes + bytes - 1]) continue;
				const [x, y] = [i % box.width, Math.floor(i / box.width)];
				[x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
			}
			return x1 < 0 ? null : { x: box.x + x0, y: box.y + y0, width: x1 - x0 + 1, height: y1 - y0 + 1 };
		},
	};
}
