import {
	type Command,
	CommandError,
	eachLayer,
	freeName,
	type Layer,
	layerOf,
	ownSurfaceOf,
	placeOfLayer,
	type Sheet,
	surfacesOfLayer,
} from '../document/index.ts';
import { clear, clipOf, placedClip, wholeSelection } from '../edit/index.ts';
import { createSurface, pictureIntoSurface, type Surface } from '../surface/index.ts';
import { merged } from './dirty.ts';
import type { Engine } from './engine.ts';
import { freeScope } from './scope.ts';
import type { Workspace } from './workspace.ts';

const namesOn = (sheet: Sheet): string[] => [...eachLayer(sheet.layers)].map(({ name }) => name);

/** Layers taken up, and put down again. */
export function clips(workspace: Workspace): Pick<Engine, 'clip' | 'paste' | 'cut'> {
	const { kernels, surfaces, history, need, selectionOf, run, carry, addSurface, markChanged } = workspace;
	return {
		cut(sheetId, layerId, newId) {
			const sheet = need(sheetId);
			const layer = layerOf(sheet, layerId);
			const own = layer && ownSurfaceOf(layer);
			const selection = selectionOf(sheet);
			if (!layer || !own) throw new CommandError('Only a paint layer has pixels to cut. Nothing was changed.');
			if (!selection)
				throw new CommandError('Nothing is selected: select what is to be cut first (C). Nothing was changed.');
			if (layer.locked) throw new CommandError(`"${layer.name}" is locked. Nothing was changed.`);
			const from = surfaces.get(own) as Surface;
			const { pictures } = clipOf(kernels, sheet, layer, surfaces, wholeSelection(kernels, sheet, selection));
			const taken = pictures.get(own);
			if (!taken?.data.some((v, i) => i % 4 === 3 && v > 0))
				throw new CommandError(`There is nothing on "${layer.name}" where it is selected. Nothing was changed.`);
			const mask = layer.mask && { ...layer.mask, surface: `${newId}-m` };
			const fresh = { ...layer, id: newId, name: freeName(layer.name, namesOn(sheet)), surface: newId, mask };
			const surface = createSurface(newId, 'color', sheet.width, sheet.height);
			pictureIntoSurface(kernels, { width: sheet.width, height: sheet.height, data: taken.data }, surface);
			addSurface(surface);
			const place = placeOfLayer(sheet, layerId);
			// What is clipped to the layer stays clipped to it.
			const base = !layer.clip && place?.among[place.at + 1]?.clip;
			const command: Command = {
				do: 'layer.add',
				sheet: sheetId,
				layer: fresh as Layer,
				at: (place?.at ?? 0) + (base ? 0 : 1),
				parent: place?.parent?.id ?? null,
				copyOf: layerId,
			};
			const { inverse, dirty } = carry(command);
			const scope = freeScope(workspace, sheet, from, selection);
			const record = clear.apply({ do: 'clear' }, scope);
			history.push({ words: `Cut from "${layer.name}"`, undo: [inverse], redo: [command], records: [record] });
			markChanged(record);
			return merged([dirty, new Map([[sheetId, [...record.tiles.keys()]]])]);
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
			const placed = placedClip(clip, sheet, newId);
			const layer = { ...placed.layer, name: freeName(placed.layer.name, namesOn(sheet)) };
			const texels = placed.pictures;
			for (const { id, format } of surfacesOfLayer(layer)) {
				const surface = createSurface(id, format, sheet.width, sheet.height);
				const found = texels.find((each) => each.surface === id);
				if (found) pictureIntoSurface(kernels, found.picture, surface);
				addSurface(surface);
			}
			return { layer: layer.id, dirty: run({ do: 'layer.add', sheet: sheetId, layer, at, parent }) };
		},
	};
}
