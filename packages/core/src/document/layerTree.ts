import { type Bake, bakeKindOf } from '../light/index.ts';
import type { Rect } from '../raster/index.ts';
import { type SurfaceId, type TexelFormat, TILE } from '../surface/index.ts';
import { kindOf } from './layer/index.ts';
import type { PlaceMove } from './layer/kind.ts';
import type { Id } from './layerBase.ts';
import type { Asset, GroupLayer, Layer, Numbers, Project, Sheet } from './types.ts';

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
		...('entries' in each && each.entries ? [{ id: each.entries, format: 'color' as const }] : []),
		...(each.mask ? [{ id: each.mask.surface, format: 'mask' as const }] : []),
	]);
}

/** Every surface of a sheet that is kept: its layers' and its selection. */
export const surfacesOfSheet = (sheet: Sheet): { readonly id: SurfaceId; readonly format: TexelFormat }[] => [
	...sheet.layers.flatMap(surfacesOfLayer),
	...(sheet.selection ? [{ id: sheet.selection, format: 'mask' as const }] : []),
];

/** A surface that is kept with a project, and how large it is. */
export interface KeptPlace {
	readonly id: SurfaceId;
	readonly format: TexelFormat;
	readonly width: number;
	readonly height: number;
}

/** The surface that numbers lie on: 4096 bytes a tile, one tile under the other. */
export const placeOfNumbers = ({ surface, bytes }: Numbers): KeptPlace => ({
	id: surface,
	format: 'mask',
	width: TILE,
	height: TILE * Math.ceil(bytes / (TILE * TILE)),
});

/** Every surface that is kept with a project. Those of models stand first: what is computed goes out from them. */
export const surfacesOfProject = ({ models, sheets }: Pick<Project, 'models' | 'sheets'>): KeptPlace[] => [
	...models.flatMap(({ layout, seams }) => [layout, seams].flatMap((each) => (each ? [placeOfNumbers(each)] : []))),
	...sheets.flatMap((sheet) =>
		surfacesOfSheet(sheet).map((each) => ({ ...each, width: sheet.width, height: sheet.height })),
	),
];

/** Files that a model's bakes are made of: finer meshes, and maps from elsewhere. */
export const filesOfBakes = (bakes: readonly Bake[]): readonly Asset[] =>
	bakes.flatMap((bake) => [bake.finer?.asset, bakeKindOf(bake).file?.(bake)].filter((file) => file != null));

/** Files that a project's bakes are made of. */
export const bakeFilesOf = ({ models }: Pick<Project, 'models'>): readonly Asset[] =>
	models.flatMap(({ bakes }) => filesOfBakes(bakes ?? []));

/** Every file that a project names: of its models, of its bakes, of guides, and its bundle. */
export const assetsOf = (project: Project): readonly Asset[] => [
	...project.models.map(({ asset }) => asset),
	...bakeFilesOf(project),
	...project.sheets.flatMap(({ guide }) => (guide ? [guide] : [])),
	...(project.bundle ? [project.bundle] : []),
];

/** A layer, and those within it, on surfaces of other names. */
export const withSurfaces = (layer: Layer, name: (id: SurfaceId) => SurfaceId): Layer =>
	({
		...layer,
		...('surface' in layer ? { surface: name(layer.surface) } : {}),
		...('entries' in layer && layer.entries ? { entries: name(layer.entries) } : {}),
		...(layer.mask ? { mask: { ...layer.mask, surface: name(layer.mask.surface) } } : {}),
		...('layers' in layer ? { layers: layer.layers.map((each) => withSurfaces(each, name)) } : {}),
	}) as Layer;

/** A layer, and those within it, with what they say of places moved along with the surface. */
export function layerMoved(layer: Layer, move: PlaceMove): Layer {
	const moved = (kindOf(layer).moved?.(layer, move) ?? layer) as Layer;
	return 'layers' in moved ? { ...moved, layers: moved.layers.map((each) => layerMoved(each, move)) } : moved;
}

/** How deep groups stand within each other. */
export const depthOf = (layers: readonly Layer[]): number =>
	layers.reduce((most, layer) => ('layers' in layer ? Math.max(most, 1 + depthOf(layer.layers)) : most), 0);

/** All tiles of a sheet. */
export const allTiles = (sheet: Sheet): number[] =>
	Array.from({ length: Math.ceil(sheet.width / TILE) * Math.ceil(sheet.height / TILE) }, (_, i) => i);

export const sheetRect = ({ width, height }: Sheet): Rect => ({ x: 0, y: 0, width, height });
