import { ownMaskIdOf } from '../derive/index.ts';
import { CommandError, type Layer, layerOf, type Sheet } from '../document/index.ts';
import { type Picture, pictureOfSurface } from '../surface/index.ts';
import type { Engine } from './engine.ts';
import type { Workspace } from './workspace.ts';

/** What stands of a sheet by itself, as pictures of the sheet's size. */
export function pictures(workspace: Workspace): Pick<Engine, 'layerPicture' | 'maskPicture' | 'stackPicture'> {
	const { kernels, surfaces, need, settle, pictureOf } = workspace;
	const needLayer = (sheet: Sheet, id: string): Layer => {
		const layer = layerOf(sheet, id);
		if (!layer) throw new CommandError(`"${sheet.name}" has no such layer any more.`);
		return layer;
	};
	return {
		layerPicture(sheetId, layerId, bare = false) {
			const sheet = need(sheetId);
			const layer = needLayer(sheet, layerId);
			const alone = {
				...layer,
				shown: true,
				opacity: 1,
				mode: 'normal' as const,
				clip: false,
				...(bare ? { mask: null, finishes: [] } : {}),
				...('layers' in layer ? { isolated: true } : {}),
			};
			return pictureOf({ ...sheet, base: null, layers: [alone] });
		},
		maskPicture(sheetId, layerId): Picture | null {
			const sheet = need(sheetId);
			settle(sheetId);
			const layer = needLayer(sheet, layerId);
			const mask = surfaces.get(ownMaskIdOf(layer));
			return mask ? pictureOfSurface(kernels, mask) : null;
		},
		stackPicture: (sheetId, layers, base = null) => pictureOf({ ...need(sheetId), base, layers }),
	};
}
