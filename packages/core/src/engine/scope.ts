import {
	type Guard,
	guardLets,
	type Id,
	isStrict,
	type Layer,
	layerOf,
	namesFaces,
	type Sheet,
} from '../document/index.ts';
import { type DrawSpace, type EditScope, sheetSpace } from '../edit/index.ts';
import { pixelColors } from '../pixel/index.ts';
import type { Rect } from '../raster/index.ts';
import { modelGround, type Scene } from '../scene/index.ts';
import type { Surface } from '../surface/index.ts';
import { colorsOn } from './indexed.ts';
import { type Refusal, whyNotPaint } from './refusal.ts';
import { surfaceFor } from './strokeSpec.ts';
import { toneGate } from './toneGate.ts';
import type { Workspace } from './workspace.ts';

/** How free texels of a rectangle are of a guard: by faces that it names, and by a tone. */
function freeIn(
	rect: Rect,
	sheet: Sheet,
	named: { readonly guard: Guard; readonly scene: Scene } | null,
	toned: ((rect: Rect) => Uint8Array) | null,
): Uint8Array {
	const free = toned?.(rect) ?? new Uint8Array(rect.width * rect.height).fill(255);
	if (!named) return free;
	const { guard, scene } = named;
	modelGround(scene, sheet)
		.facesIn(rect, 1)
		.forEach((face, i) => {
			const lets =
				face >= 0 && guardLets(guard, face, scene.partOfFace(face), scene.topology.islandOfFace[face] as number);
			if (!lets) free[i] = 0;
		});
	return free;
}

/** What an edit on a layer of a sheet works on, or why it cannot. */
export function scopeOf(
	{ kernels, project, surfaces, sceneOf, selectionOf, pictureOf }: Workspace,
	sheet: Sheet,
	layerId: Id | undefined,
	{ onMask, guard, moves }: { readonly onMask: boolean; readonly guard: Guard | null; readonly moves: boolean },
	space: (surface: Surface) => DrawSpace,
): EditScope | Refusal {
	const refusal = whyNotPaint(project, sheet.id, layerId, onMask);
	if (refusal) return refusal;
	const layer = layerOf(sheet, layerId) as Layer;
	const surface = surfaces.get(surfaceFor(layer, onMask)) as Surface;
	const scene = sceneOf(sheet.id);
	const named = guard && scene && namesFaces(guard) ? { guard, scene } : null;
	const toned = toneGate(kernels, surfaces, sheet, guard);
	return {
		kernels,
		surface,
		space: space(surface),
		selection: selectionOf(sheet),
		// What is lifted off leaves nothing behind.
		lockAlpha: layer.lockAlpha && !moves,
		strict: isStrict(sheet, layer),
		colors: colorsOn(project, layer),
		guarded: named || toned ? (rect) => freeIn(rect, sheet, named, toned) : null,
		picture: () => pictureOf(sheet),
	};
}

/** A surface of a sheet as an edit works on it that nothing limits, but a selection where one is named. */
export const freeScope = (
	{ kernels, project, pictureOf }: Workspace,
	sheet: Sheet,
	surface: Surface,
	selection: Surface | undefined,
): EditScope => ({
	kernels,
	surface,
	space: sheetSpace(surface),
	selection,
	lockAlpha: false,
	guarded: null,
	strict: false,
	colors: pixelColors(project.palette),
	picture: () => pictureOf(sheet),
});

/** The selection itself, as what an edit works on: it moves along with what is in it. */
export const selectionScope = (scope: EditScope, space: (surface: Surface) => DrawSpace): EditScope => ({
	...scope,
	surface: scope.selection as Surface,
	space: space(scope.selection as Surface),
	selection: undefined,
	lockAlpha: false,
	guarded: null,
});
