import type { Id } from '@eppu/core/document';
import { type Engine, gridOfSheet } from '@eppu/core/engine';
import { type Along, facesUnder } from '@eppu/core/grid';
import type { Scene } from '@eppu/core/scene';
import type { ToStudio } from './protocol.ts';

type Asked = Pick<Extract<ToStudio, { readonly say: 'assign-cell' }>, 'sheet' | 'place' | 'by' | 'along' | 'end'>;

/** Faces by model that are meant, and how they are to lie. */
interface Meant {
	readonly taken: ReadonlyMap<Id, readonly number[]>;
	readonly along: Along;
}

const NOTHING = 'There is nothing of the model here to put in a cell.';
const NO_LINE = 'A line is drawn on the model, from its start to its end. Click there, or choose another way to lie.';

/** All faces of the parts or islands that some faces are of, or those faces themselves. */
function widened({ mesh, topology, partOfFace }: Scene, faces: readonly number[], by: Asked['by']): readonly number[] {
	if (by === 'face') return faces;
	const of = (face: number): number | undefined => (by === 'part' ? partOfFace(face) : topology.islandOfFace[face]);
	const meant = new Set(faces.map(of));
	return Array.from({ length: mesh.indices.length / 3 }, (_, face) => face).filter((face) => meant.has(of(face)));
}

/** What lies at a place of the grid's own sheet, of all models. */
function onSheet(engine: Engine, { sheet: id, by }: Asked, x: number, y: number): Map<Id, readonly number[]> {
	const sheet = engine.project.sheets.find((each) => each.id === id);
	const grid = sheet && gridOfSheet(sheet);
	const scenes = engine.project.models.flatMap((model) => engine.scene(model.id) ?? []);
	if (!sheet || !grid) return new Map();
	const meshes = scenes.map(({ mesh, model }) => ({
		mesh,
		takes: (part: number) => model.parts[part]?.sheet === id,
	}));
	const found = facesUnder(meshes, grid.cells, x / sheet.width, y / sheet.height);
	return new Map(
		scenes.flatMap((scene, i) => {
			const faces = found[i] as number[];
			return faces.length ? [[scene.model.id, widened(scene, faces, by)] as const] : [];
		}),
	);
}

/**
 * What an artist points at on a model or on the grid's sheet, a part, an island or faces, and how it is to lie; else, in
 * words, why nothing is meant: the place is beside all models, or a line ends beside the one that it began on.
 */
export function facesMeant(engine: Engine, asked: Asked): Meant | string {
	const { place, by, along, end } = asked;
	if (place.on !== 'model') {
		if (along === 'line') return NO_LINE;
		if (place.on === 'sheet') {
			const taken = onSheet(engine, asked, place.x, place.y);
			return taken.size ? { taken, along } : NOTHING;
		}
		const part = engine.scene(place.model)?.mesh.parts[place.part];
		if (!part) return NOTHING;
		const faces = Array.from({ length: part.faces }, (_, i) => part.firstFace + i);
		return { taken: new Map([[place.model, faces]]), along };
	}
	const scene = engine.scene(place.model);
	const spot = scene?.spotAt(engine.project.sheets, place.sight, place.x, place.y);
	if (!scene || !spot) return NOTHING;
	const taken = new Map([[place.model, widened(scene, [spot.face], by)]]);
	if (along !== 'line') return { taken, along };
	const from = scene.placeAt(place.sight, place.x, place.y);
	const to = end?.on === 'model' && end.model === place.model ? scene.placeAt(end.sight, end.x, end.y) : null;
	return from && to ? { taken, along: { from, to } } : NOTHING;
}
