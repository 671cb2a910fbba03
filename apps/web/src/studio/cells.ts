import type { Engine } from '@eppu/core/engine';
import type { Along } from '@eppu/core/grid';
import type { ToStudio } from './protocol.ts';

type Asked = Extract<ToStudio, { readonly say: 'assign-cell' }>;

/**
 * The model and the faces that an artist points at, a part, an island or one face, and how they are to lie; null beside the
 * model, or where a line ends beside it.
 */
export function facesMeant(
	engine: Engine,
	{ place, by, along: asked, end }: Pick<Asked, 'place' | 'by' | 'along' | 'end'>,
): { readonly model: string; readonly faces: readonly number[]; readonly along: Along } | null {
	if (place.on !== 'model') return null;
	const scene = engine.scene(place.model);
	const spot = scene?.spotAt(engine.project.sheets, place.sight, place.x, place.y);
	if (!scene || !spot) return null;
	let along: Along;
	if (asked === 'line') {
		const from = scene.placeAt(place.sight, place.x, place.y);
		const to = end?.on === 'model' && end.model === place.model ? scene.placeAt(end.sight, end.x, end.y) : null;
		if (!from || !to) return null;
		along = { from, to };
	} else along = asked;
	if (by === 'face') return { model: place.model, faces: [spot.face], along };
	const all = Array.from({ length: scene.mesh.indices.length / 3 }, (_, face) => face);
	const faces = all.filter((face) =>
		by === 'part' ? scene.partOfFace(face) === spot.part : scene.topology.islandOfFace[face] === spot.island,
	);
	return { model: place.model, faces, along };
}
