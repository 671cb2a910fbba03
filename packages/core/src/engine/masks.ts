import { ownMaskIdOf } from '../derive/index.ts';
import { type Command, CommandError, type Layer, layerOf, ownSurfaceOf, type Sheet } from '../document/index.ts';
import { fillMask, invertMask, maskIntoAlpha, wholeSelection } from '../edit/index.ts';
import { writeBlock } from '../raster/index.ts';
import { createRecord, pictureIntoSurface, pictureOfSurface, type Surface, type TileRecord } from '../surface/index.ts';
import { type Dirty, merged } from './dirty.ts';
import type { Engine } from './engine.ts';
import type { Workspace } from './workspace.ts';

/** What is done with a whole mask at once. */
export function masks(workspace: Workspace): Pick<Engine, 'changeMask'> {
	const { kernels, surfaces, history, need, selectionOf, carry, pushRecord, markChanged, settle, unders } = workspace;
	/** One step that is a command and changed texels together. */
	const both = (sheet: Sheet, words: string, command: Command, record: TileRecord): Dirty => {
		const { inverse, dirty } = carry(command);
		history.push({ words, undo: [inverse], redo: [command], records: [record] });
		markChanged(record);
		return merged([dirty, new Map([[sheet.id, [...record.tiles.keys()]]])]);
	};
	const bySelection = (sheet: Sheet, layer: Layer, mask: Surface): Dirty => {
		const record = createRecord(mask);
		const data = wholeSelection(kernels, sheet, selectionOf(sheet));
		writeBlock(kernels, record, { rect: { x: 0, y: 0, width: sheet.width, height: sheet.height }, bytes: 1, data });
		return pushRecord(`Mask "${layer.name}" by the selection`, [record], sheet.id);
	};
	const painted = (sheet: Sheet, layer: Layer, mask: Surface): Dirty => {
		settle(sheet.id);
		const made = surfaces.get(ownMaskIdOf(layer));
		if (!layer.mask || !made || made === mask)
			throw new CommandError(`The mask of "${layer.name}" has no recipe. Nothing was changed.`);
		const change = { mask: { ...layer.mask, recipe: null } };
		const record = pictureIntoSurface(kernels, pictureOfSurface(kernels, made), mask);
		const command: Command = { do: 'layer.change', sheet: sheet.id, layer: layer.id, change };
		return both(sheet, `Paint over the mask of "${layer.name}"`, command, record);
	};
	const intoPixels = (sheet: Sheet, layer: Layer, mask: Surface): Dirty => {
		settle(sheet.id);
		const own = ownSurfaceOf(layer);
		if (own === null)
			throw new CommandError(`Only a paint layer has pixels that a mask can become. Nothing was changed.`);
		const counts = surfaces.get(ownMaskIdOf(layer)) ?? mask;
		const record = maskIntoAlpha(kernels, surfaces.get(own) as Surface, counts);
		const command: Command = { do: 'layer.change', sheet: sheet.id, layer: layer.id, change: { mask: null } };
		return both(sheet, `Turn the mask of "${layer.name}" into pixels`, command, record);
	};
	return {
		changeMask(sheetId, layerId, change) {
			const sheet = need(sheetId);
			const layer = layerOf(sheet, layerId);
			const mask = surfaces.get(layer?.mask?.surface ?? '');
			if (!layer || !mask) throw new CommandError('That layer has no mask. Nothing was changed.');
			unders.drop();
			switch (change.to) {
				case 'selection':
					return bySelection(sheet, layer, mask);
				case 'painted':
					return painted(sheet, layer, mask);
				case 'pixels':
					return intoPixels(sheet, layer, mask);
				case 'inverse':
					return pushRecord(`Invert the mask of "${layer.name}"`, [invertMask(kernels, mask)], sheetId);
				case 'value':
					return pushRecord(`Fill the mask of "${layer.name}"`, [fillMask(kernels, mask, change.value)], sheetId);
			}
		},
	};
}
