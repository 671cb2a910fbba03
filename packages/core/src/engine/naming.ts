import { facesOfTile } from '../atlas/index.ts';
import {
	cleanNameProblem,
	type Doing,
	eachLayer,
	freeName,
	type Id,
	type Layer,
	layerOf,
	ownSurfaceOf,
} from '../document/index.ts';
import { Kind, readTexels, type TileRecord } from '../surface/index.ts';
import type { Workspace } from './workspace.ts';

/** Of a tile every so many texels are asked which part they lie on: enough to tell where most of the paint is. */
const STRIDE = 37;

/** Whether a layer is to be called by what it is about to hold: it has no name of the artist's, and nothing on it yet. */
export function isUncalled({ surfaces }: Workspace, layer: Layer | undefined): boolean {
	const surface = layer?.unnamed ? surfaces.get(ownSurfaceOf(layer) ?? '') : undefined;
	return surface?.kinds.every((kind) => kind === Kind.empty) ?? false;
}

/** The part of the model that most of what a change laid lies on; null where there is no model, or it has one part alone. */
function partOf({ kernels, sceneOf, need }: Workspace, sheetId: Id, record: TileRecord): string | null {
	const scene = sceneOf(sheetId);
	if (!scene || scene.model.parts.length < 2) return null;
	const map = scene.mapOf(need(sheetId));
	const counts = new Map<number, number>();
	for (const tile of record.tiles.keys()) {
		const faces = facesOfTile(map, tile);
		const texels = readTexels(kernels.heap, record.surface, tile);
		for (let i = 0; i < faces.length; i += STRIDE) {
			const face = faces[i] as number;
			if (face < 0 || !texels[i * 4 + 3]) continue;
			const part = scene.partOfFace(face);
			counts.set(part, (counts.get(part) ?? 0) + 1);
		}
	}
	const [most] = [...counts].sort((a, b) => b[1] - a[1]);
	return most ? (scene.model.parts[most[0]]?.name ?? null) : null;
}

/** What calls a layer by what a change laid on it: "Amber strokes on Lid". */
export function callLayer(
	workspace: Workspace,
	sheetId: Id,
	layerId: Id,
	what: string,
	record: TileRecord,
): Doing | null {
	const sheet = workspace.need(sheetId);
	const layer = layerOf(sheet, layerId);
	if (!layer) return null;
	const part = partOf(workspace, sheetId, record);
	const words = `${what}${part ? ` on ${part}` : ''}`.slice(0, 60).trim();
	if (cleanNameProblem(words) !== null) return null;
	const others = [...eachLayer(sheet.layers)].filter((each) => each.id !== layerId).map((each) => each.name);
	return { do: 'layer.change', sheet: sheetId, layer: layerId, change: { name: freeName(words, others) } } as Doing;
}
