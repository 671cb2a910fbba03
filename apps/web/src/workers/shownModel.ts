import type { Id } from '@eppu/core/document';
import type { Engine } from '@eppu/core/engine';
import { type LaidMesh, meshBounds, partOfFaces, type Topology } from '@eppu/core/mesh';
import { standsFlat } from '@eppu/core/regions';
import type { Scene } from '@eppu/core/scene';
import type { FromStudio } from '../studio/protocol.ts';
import type { ShownModel } from '../studio/told.ts';

/** A mesh as the views draw it, each part on a sheet. */
export function shownMesh(id: Id, mesh: LaidMesh, topology: Topology, sheets: readonly Id[]): ShownModel {
	const seams = new Uint32Array(topology.seams.length * 2);
	topology.seams.forEach(({ one }, i) => {
		seams[i * 2] = mesh.indices[one.face * 3 + one.corner] as number;
		seams[i * 2 + 1] = mesh.indices[one.face * 3 + ((one.corner + 1) % 3)] as number;
	});
	const { center, radius } = meshBounds(mesh);
	return {
		id,
		positions: mesh.positions,
		normals: mesh.normals,
		uvs: mesh.uvs,
		indices: mesh.indices,
		parts: mesh.parts.map((part, i) => ({ ...part, sheet: sheets[i] as Id })),
		partOfFace: partOfFaces(mesh),
		islandOfFace: topology.islandOfFace,
		seams,
		inner: standsFlat(mesh) ? new Uint32Array() : topology.inner,
		borders: topology.borders,
		center,
		radius,
		colored: mesh.colors !== undefined,
	};
}

/** What the model view needs to draw a model of an open project, as it lies in a scene. */
export const shownModel = (engine: Engine, { mesh, model, topology }: Scene): ShownModel =>
	shownMesh(
		model.id,
		mesh,
		topology,
		mesh.parts.map((_, i) => model.parts[i]?.sheet ?? (engine.project.sheets[0]?.id as Id)),
	);

/** All models of an open project. */
export const shownModels = (engine: Engine): ShownModel[] =>
	engine.project.models.flatMap(({ id }) => {
		const scene = engine.scene(id);
		return scene ? [shownModel(engine, scene)] : [];
	});

/** The marked edges of a model, each by a corner that it begins at. */
function markedEdges(engine: Engine, id: Id): Uint32Array {
	const out: number[] = [];
	if (engine.scene(id)?.model.seams)
		engine.seams(id).forEach((mark, corner) => {
			if (mark) out.push(corner);
		});
	return Uint32Array.from(out);
}

/** Tells how models lie and which of their edges are marked, where that is not what was told last. */
export function createModelTeller(tell: (message: FromStudio) => void): {
	/** Notes what the page knows already. */
	known(engine: Engine): void;
	tell(engine: Engine): void;
} {
	let [lying, marks]: [readonly unknown[], string] = [[], ''];
	const lyingNow = (engine: Engine): unknown[] =>
		engine.project.models.flatMap(({ id, parts }) => [engine.scene(id)?.mesh, ...parts.map(({ sheet }) => sheet)]);
	const marksNow = (engine: Engine): string =>
		engine.project.models.map(({ id, seams }) => `${id} ${seams?.surface}`).join();
	return {
		known(engine) {
			lying = lyingNow(engine);
			marks = '';
		},
		tell(engine) {
			const now = lyingNow(engine);
			if (now.length !== lying.length || now.some((each, i) => each !== lying[i])) {
				lying = now;
				tell({ say: 'models', models: shownModels(engine) });
			}
			const marked = marksNow(engine);
			if (marked === marks) return;
			marks = marked;
			tell({ say: 'marked', marks: new Map(engine.project.models.map(({ id }) => [id, markedEdges(engine, id)])) });
		},
	};
}
