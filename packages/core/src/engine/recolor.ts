import type { Hex, Palette } from '../color/index.ts';
import { type Doing, eachLayer, type Id, ownSurfaceOf } from '../document/index.ts';
import { recolored } from '../edit/index.ts';
import { colorsOfTexels } from '../pixel/index.ts';
import type { Surface, TileRecord } from '../surface/index.ts';
import { merged } from './dirty.ts';
import type { Engine } from './engine.ts';
import { freeScope } from './scope.ts';
import type { Workspace } from './workspace.ts';

/** Colours told and changed over whole sheets. */
export function recoloring(workspace: Workspace): Pick<Engine, 'recolor' | 'colorsUsed'> {
	const { surfaces, need, pushRecords, retake, runAll, unders, pictureOf, selectionOf, settle } = workspace;
	return {
		colorsUsed(sheetIds) {
			const all = new Map<number, number>();
			for (const id of sheetIds) {
				settle(id);
				for (const [color, texels] of colorsOfTexels(pictureOf(need(id)).data).colors)
					all.set(color, (all.get(color) ?? 0) + texels);
			}
			return [...all].sort((a, b) => b[1] - a[1]);
		},
		recolor(sheetIds, pairs, palette, only = null, gesture) {
			const back = retake(gesture);
			const to = new Map<Hex, Hex>(pairs);
			const records = new Map<Id, TileRecord[]>();
			const also: Doing[] = palette ? [{ do: 'palette.set', palette } as Doing & { palette: Palette }] : [];
			const recolors = workspace.project.recolors ?? [];
			if (only !== null) also.push({ do: 'bundle.recolor', recolors: [...recolors, { pairs, only }] } as Doing);
			unders.drop();
			for (const id of sheetIds) {
				const sheet = need(id);
				for (const layer of eachLayer(sheet.layers)) {
					if (layer.locked) continue;
					const color = layer.kind === 'wash' && !layer.fill ? to.get(layer.color) : undefined;
					if (color) also.push({ do: 'layer.change', sheet: id, layer: layer.id, change: { color } } as Doing);
					const surface = surfaces.get(ownSurfaceOf(layer) ?? '') as Surface | undefined;
					if (!surface) continue;
					const record = recolored({ pairs }, freeScope(workspace, sheet, surface, selectionOf(sheet)));
					if (!record.tiles.size) continue;
					records.set(id, [...(records.get(id) ?? []), record]);
				}
			}
			const words = pairs.length === 1 ? 'Replace a colour' : 'Recolour';
			if (records.size) return merged([back, pushRecords(words, records, gesture, also)]);
			return also.length ? merged([back, runAll(also, words, gesture)]) : back;
		},
	};
}
