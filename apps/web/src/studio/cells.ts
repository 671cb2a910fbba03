import type { Engine } from '@eppu/core/engine';
import type { ToStudio } from './protocol.ts';

/** The model and the faces that an artist points at: a part, an island or one face; null beside the model. */
export function facesMeant(
	engine: Engine,
	{ place, by }: Pick<Extract<ToStudio, { readonly say: 'assign-cell' }>, 'place' | 'by'>,
): { readonly model: string; readonly faces: readonly number[] } | null {
	if (place.on !== 'model') return null;
	const scene = engine.scene(place.model);
	const spot = scene?.spotAt(engine.project.sheets, place.sight, place.x, place.y);
	if (!scene || !spot) return null;
	if (by === 'face') return { model: place.model, faces: [spot.face] };
	const all = Array.from({ length: scene.mesh.indices.length / 3 }, (_, face) => face);
	const faces = all.filter((face) =>
		by === 'part' ? scene.partOfFace(face) === spot.part : scene.topology.islandOfFace[face] === spot.island,
	);
	return { model: place.model, faces };
}
