import { MOST_NESTED } from '../../composite/index.ts';
import { depthOf, type LayerPlace, layerOf, placeOfLayer, sheetOf } from '../layerTree.ts';
import { cleanNameProblem } from '../names.ts';
import type { GroupLayer, Id, Layer, Project, Sheet } from '../types.ts';
import { CommandError } from './kind.ts';

/** What a command names, or CommandError. */
export const needSheet = (project: Project, sheet: Id): Sheet => {
	const found = sheetOf(project, sheet);
	if (!found) throw new CommandError('That sheet is not in this project any more. Nothing was changed.');
	return found;
};

export const needLayer = (sheet: Sheet, id: Id): Layer => {
	const found = layerOf(sheet, id);
	if (!found) throw new CommandError(`That layer is not on "${sheet.name}" any more. Nothing was changed.`);
	return found;
};

export const needPlace = (sheet: Sheet, id: Id): LayerPlace => {
	const found = placeOfLayer(sheet, id);
	if (!found) throw new CommandError(`That layer is not on "${sheet.name}" any more. Nothing was changed.`);
	return found;
};

export const needParent = (sheet: Sheet, id: Id | null | undefined): GroupLayer | null => {
	if (id === null || id === undefined) return null;
	const found = needLayer(sheet, id);
	if (!('layers' in found)) throw new CommandError(`"${found.name}" is no group. Nothing was changed.`);
	return found;
};

/** Refuses what would stand deeper than the compositor goes. */
export const notTooDeep = (layers: readonly Layer[]): readonly Layer[] => {
	if (depthOf(layers) > MOST_NESTED)
		throw new CommandError(`Groups stand ${MOST_NESTED} deep within each other at the most. Nothing was changed.`);
	return layers;
};

export const needName = (name: string): string => {
	const problem = cleanNameProblem(name);
	if (problem) throw new CommandError(`${problem} Nothing was changed.`);
	return name.trim();
};

/** The project with other layers on a sheet. */
export const withLayers = (project: Project, sheet: Sheet, layers: readonly Layer[]): Project => ({
	...project,
	sheets: project.sheets.map((each) => (each.id === sheet.id ? { ...each, layers } : each)),
});

/** The layers of a sheet with those among which `parent` (null: the sheet) holds its own changed. */
export const changeAmong = (
	layers: readonly Layer[],
	parent: Id | null,
	change: (among: readonly Layer[]) => readonly Layer[],
): readonly Layer[] =>
	parent === null
		? change(layers)
		: layers.map((layer) => {
				if (!('layers' in layer)) return layer;
				if (layer.id === parent) return { ...layer, layers: change(layer.layers) };
				const inner = changeAmong(layer.layers, parent, change);
				return inner.some((each, i) => each !== layer.layers[i]) ? { ...layer, layers: inner } : layer;
			});
