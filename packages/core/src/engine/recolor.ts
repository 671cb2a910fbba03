import type { Hex, Palette } from '../color/index.ts';
import { applyCommand, type Doing, eachLayer, type Id, ownSurfaceOf, type Sheet } from '../document/index.ts';
import { recolored } from '../edit/index.ts';
import { colorsOfTexels, hexOfPacked, packedOf } from '../pixel/index.ts';
import type { TileRecord } from '../surface/index.ts';
import { merged } from './dirty.ts';
import type { Engine } from './engine.ts';
import { colorsOn, followedRecords, projectEntries } from './indexed.ts';
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
		recolor(sheetIds, pairs, palette, only = null, gesture, turned = false) {
			const back = retake(gesture);
			const to = new Map<Hex, Hex>(pairs);
			const records = new Map<Id, TileRecord[]>();
			const entries = projectEntries(workspace.project);
			const same = turned && palette?.colors.length === entries.colors.length ? { entries: entries.numbers } : {};
			const also: Doing[] = palette ? [{ do: 'palette.set', palette, ...same } as Doing & { palette: Palette }] : [];
			const recolors = workspace.project.recolors ?? [];
			if (only !== null) also.push({ do: 'bundle.recolor', recolors: [...recolors, { pairs, only }] } as Doing);
			const sheets = sheetIds.map(need);
			for (const sheet of sheets)
				for (const layer of eachLayer(sheet.layers)) {
					const color = layer.kind === 'wash' && !layer.fill && !layer.locked ? to.get(layer.color) : undefined;
					if (color) also.push({ do: 'layer.change', sheet: sheet.id, layer: layer.id, change: { color } } as Doing);
				}
			// What does not fit is told before a texel is touched.
			const next = also.reduce((project, command) => applyCommand(project, command).project, workspace.project);
			unders.drop();
			if (palette) {
				const { sheets: all } = workspace.project;
				const asked = (sheet: Sheet) => (sheetIds.includes(sheet.id) ? pairs : []);
				for (const [id, list] of followedRecords(workspace, all, entries, projectEntries(next), asked))
					records.set(id, list);
			}
			for (const sheet of sheets)
				for (const layer of eachLayer(sheet.layers)) {
					const surface = layer.locked ? undefined : surfaces.get(ownSurfaceOf(layer) ?? '');
					const indexed = 'entries' in layer && layer.entries;
					if (!surface || (indexed && palette)) continue;
					const colors = indexed && colorsOn(workspace.project, layer);
					const own = colors
						? pairs.map(([hex, becomes]) => [hex, hexOfPacked(colors.nearest(packedOf(becomes)))] as const)
						: pairs;
					const record = recolored({ pairs: own }, freeScope(workspace, sheet, surface, selectionOf(sheet)));
					if (record.tiles.size) records.set(sheet.id, [...(records.get(sheet.id) ?? []), record]);
				}
			const words = pairs.length === 1 ? 'Replace a colour' : 'Recolour';
			if (records.size) return merged([back, pushRecords(words, records, gesture, also)]);
			return also.length ? merged([back, runAll(also, words, gesture)]) : back;
		},
	};
}
