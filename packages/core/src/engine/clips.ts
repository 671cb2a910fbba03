import { CommandError, layerOf, surfacesOfLayer } from '../document/index.ts';
import { clipOf, placedClip, wholeSelection } from '../edit/index.ts';
import { createSurface, pictureIntoSurface } from '../surface/index.ts';
import type { Engine } from './engine.ts';
import type { Workspace } from './workspace.ts';

/** Layers taken up, and put down again. */
export function clips(workspace: Workspace): Pick<Engine, 'clip' | 'paste'> {
	const { kernels, surfaces, need, selectionOf, run, addSurface } = workspace;
	return {
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
