import { type Guard, guardLets, type Id, type Layer, layerOf, type Sheet } from '../document/index.ts';
import type { DrawSpace, EditScope } from '../edit/index.ts';
import { modelGround } from '../scene/index.ts';
import type { Surface } from '../surface/index.ts';
import { type Refusal, whyNotPaint } from './refusal.ts';
import { surfaceFor } from './strokeSpec.ts';
import type { Workspace } from './workspace.ts';

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
	return {
		kernels,
		surface,
		space: space(surface),
		selection: selectionOf(sheet),
		// What is lifted off leaves nothing behind.
		lockAlpha: layer.lockAlpha && !moves,
		guarded:
			guard && scene
				? (rect) =>
						Uint8Array.from(modelGround(scene, sheet).facesIn(rect, 1), (face) =>
							face >= 0 && guardLets(guard, face, scene.partOfFace(face), scene.topology.islandOfFace[face] as number)
								? 255
								: 0,
						)
				: null,
		picture: () => pictureOf(sheet),
	};
}

/** The selection itself, as what an edit works on: it moves along with what is in it. */
export const selectionScope = (scope: EditScope, space: (surface: Surface) => DrawSpace): EditScope => ({
	...scope,
	surface: scope.selection as Surface,
	space: space(scope.selection as Surface),
	selection: undefined,
	lockAlpha: false,
	guarded: null,
});
