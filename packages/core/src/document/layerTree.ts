import type { Rect } from '../raster/index.ts';
import { type SurfaceId, type TexelFormat, TILE } from '../surface/index.ts';
import type { Id } from './layerBase.ts';
import type { GroupLayer, Layer, Project, Sheet } from './types.ts';

export const sheetOf = (project: Project, id: Id): Sheet | undefined => project.sheets.find((sheet) => sheet.id === id);

/** The layers that a layer holds. */
export const layersIn = (layer: Layer): readonly Layer[] => ('layers' in layer ? layer.layers : []);

/** The surface that is painted on by hand, or null where the layer has none. */
export const ownSurfaceOf = (layer: Layer): SurfaceId | null => ('surface' in layer ? layer.surface : null);

/** All layers of a list, each before those within it. */
export function* eachLayer(layers: readonly Layer[]): Generator<Layer> {
	for (const layer of layers) {
		yield layer;
		yield* eachLayer(layersIn(layer));
	}
}

/** A layer of a sheet, in whatever group it is. */
export function layerOf(sheet: Sheet | undefined, id: Id | undefined): Layer | undefined {
	if (sheet && id !== undefined) for (const layer of eachLayer(sheet.layers)) if (layer.id === id) return layer;
	return undefined;
}

/** Where a layer stands: the group that it is in (null for the sheet itself), its neighbours and its place among them. */
export interface LayerPlace {
	readonly parent: GroupLayer | null;
	readonly among: readonly Layer[];
	readonly at: number;
	/** Groups around it, outermost first. */
	readonly path: readonly GroupLayer[];
}

export function placeOfLayer(sheet: Sheet, id: Id): LayerPlace | null {
	const within = (among: readonly Layer[], path: readonly GroupLayer[]): LayerPlace | null => {
		const at = among.findIndex((layer) => layer.id === id);
		if (at >= 0) return { parent: path.at(-1) ?? null, among, at, path };
		for (const layer of among) {
			const found = 'layers' in layer ? within(layer.layers, [...path, layer]) : null;
			if (found) return found;
		}
		return null;
	};
	return within(sheet.layers, []);
}

/** Every surface that a layer's pixels lie on, and those of the layers within it. */
export function surfacesOfLayer(layer: Layer): { readonly id: SurfaceId; readonly format: TexelFormat }[] {
	return [...eachLayer([layer])].flatMap((each) => [
		...('surface' in each ? [{ id: each.surface, format: 'color' as const }] : []),
		...(each.mask ? [{ id: each.mask.surface, format: 'mask' as const }] : []),
	]);
}

/** Every surface of a sheet that is kept: its layers' and its selection. */
export const surfacesOfSheet = (sheet: Sheet): { readonly id: SurfaceId; readonly format: TexelFormat }[] => [
	...sheet.layers.flatMap(surfacesOfLayer),
	...(sheet.selection ? [{ id: sheet.selection, format: 'mask' as const }] : []),
];

/** How deep groups stand within each other. */
export const depthOf = (layers: readonly Layer[]): number =>
	layers.reduce((most, layer) => ('layers' in layer ? Math.max(most, 1 + depthOf(layer.layers)) : most), 0);

/** All tiles of a sheet. */
export const allTiles = (sheet: Sheet): number[] =>
	Array.from({ length: Math.ceil(sheet.width / TILE) * Math.ceil(sheet.height / TILE) }, (_, i) => i);

export const sheetRect = ({ width, height }: Sheet): Rect => ({ x: 0, y: 0, width, height });
