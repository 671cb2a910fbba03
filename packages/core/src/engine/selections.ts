import { fillIdOf, isComputed, layersBlock, ownMaskIdOf } from '../derive/index.ts';
import { type Command, type Id, layerOf, type Sheet, sheetRect } from '../document/index.ts';
import { heldBy, rimMask, selectedTone, selectionIdOf, transform, viewSpace, wholeSelection } from '../edit/index.ts';
import { contentTiles, contourOf, isEmptyRect, readBlock, writeBlock } from '../raster/index.ts';
import { linesOnModel } from '../scene/index.ts';
import { changedSelection, type Joining, joined, repeatedPath, shapePath } from '../select/index.ts';
import { createRecord, type Picture, type Surface, type TileRecord } from '../surface/index.ts';
import { none } from './dirty.ts';
import type { Engine } from './engine.ts';
import type { Step } from './history.ts';
import type { Refusal } from './refusal.ts';
import { freeScope } from './scope.ts';
import { sheetsSeen } from './seen.ts';
import { surfaceFor } from './strokeSpec.ts';
import type { Workspace } from './workspace.ts';

const joiningWords: Readonly<Record<Joining, string>> = {
	replace: 'Select',
	add: 'Add to the selection',
	take: 'Take from the selection',
	meet: 'Keep only what is selected twice',
};

const nothingSelected = (code: 'no-mask' | 'off-model'): Refusal => ({
	code,
	text: code === 'no-mask' ? 'That layer has no mask to select by.' : 'There is nothing of the model here to select.',
	mend: null,
});

/** What an engine selects. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: a facet of the engine: one method after the other over one workspace.
export function selecting(
	workspace: Workspace,
): Pick<
	Engine,
	'select' | 'selectSeen' | 'changeSelection' | 'selectionLines' | 'moveSelection' | 'selectionOnModel' | 'bounds'
> {
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
	/** Puts a whole selection, A8, in place; the step is the caller's to push. */
	const setSelection = (sheet: Sheet, tone: Uint8Array, words: string): Omit<Step, 'words'> => {
		const id = sheet.selection ?? selectionIdOf(sheet);
		// On a pixel sheet a texel is selected or not.
		if (sheet.pixel) tone.forEach((v, i) => (tone[i] = v >= 128 ? 255 : 0));
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
		return { undo: carried ? [carried.inverse] : [], redo: carried ? [command] : [], records };
	};
	/** Puts selections in place as one step. */
	const putSelections = (list: readonly (readonly [Sheet, Uint8Array])[], words: string): void => {
		const steps = list.map(([sheet, tone]) => setSelection(sheet, tone, words));
		const step = {
			words,
			undo: steps.flatMap(({ undo }) => undo),
			redo: steps.flatMap(({ redo }) => redo),
			records: steps.flatMap(({ records }) => records),
		};
		if (step.redo.length || step.records.length) history.push(step);
	};
	/** What is selected after a tone of the whole sheet is joined to what was. */
	const joinedTo = (sheet: Sheet, tone: Uint8Array, joining: Joining): Uint8Array => {
		const selection = selectionOf(sheet);
		const was = selection ? readBlock(kernels, selection, sheetRect(sheet)).data : new Uint8Array(tone.length);
		// With nothing selected there is nothing to take from or to meet: all is.
		if (!selection && (joining === 'take' || joining === 'meet')) was.fill(255);
		return joined(was, tone, joining);
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
				if (of === 'shape' || of === 'outline' || of === 'inside') {
					const { data } = blockOf(id);
					if (of === 'shape') return Uint8Array.from({ length: data.length / 4 }, (_, i) => data[i * 4 + 3] as number);
					const held = heldBy({ rect, bytes: 4, data });
					return rimMask(held, { of, touching: 4, side: null }).data.map((v) => v * 255);
				}
				settle(sheetId);
				const mask = surfaces.get(ownMaskIdOf(layer));
				return mask ? readBlock(kernels, mask, rect).data : null;
			});
			if (!tone) return { ok: false, refusal: nothingSelected(by.by === 'layer' ? 'no-mask' : 'off-model') };
			putSelections([[sheet, joinedTo(sheet, tone, joining)]], joiningWords[joining]);
			return { ok: true, dirty: none };
		},
		selectSeen(model, sight, { shape, repeat }, joining) {
			const path = repeatedPath(shapePath(shape), repeat ?? null);
			const found = sheetsSeen(workspace, model, sight).map(({ sheet, bins }) => {
				const { rect, cover } = viewSpace(kernels, bins).cover(path);
				return { sheet, rect, cover, any: cover.some((v) => v > 0) };
			});
			if (!found.some(({ any }) => any)) return { ok: false, refusal: nothingSelected('off-model') };
			putSelections(
				found.map(({ sheet, rect, cover }) => {
					const tone = new Uint8Array(sheet.width * sheet.height);
					for (let row = 0; row < rect.height; row++)
						tone.set(cover.subarray(row * rect.width, (row + 1) * rect.width), (rect.y + row) * sheet.width + rect.x);
					return [sheet, joinedTo(sheet, tone, joining)] as const;
				}),
				joiningWords[joining],
			);
			return { ok: true, dirty: none };
		},
		changeSelection(sheetId, change, also = []) {
			const words = {
				all: 'Select all',
				none: 'Select nothing',
				inverse: 'Invert the selection',
				grown: 'Grow the selection',
				soft: 'Soften the selection',
				border: 'Select the border',
			};
			const list = [...new Set([sheetId, ...also])].flatMap((id) => {
				const sheet = need(id);
				const selection = selectionOf(sheet);
				if (!selection && (change.to === 'none' || id !== sheetId)) return [];
				const was = selection
					? readBlock(kernels, selection, sheetRect(sheet)).data
					: new Uint8Array(sheet.width * sheet.height);
				return [[sheet, changedSelection(kernels, was, sheet.width, sheet.height, change)] as const];
			});
			putSelections(list, change.to === 'grown' && change.by < 0 ? 'Shrink the selection' : words[change.to]);
			return { ok: true, dirty: none };
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
				{ do: 'transform', map, smooth: !need(sheetId).pixel },
				freeScope(workspace, need(sheetId), surface, undefined),
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
