import type { Id } from '@eppu/core/document';
import type { Engine } from '@eppu/core/engine';
import { meshBounds } from '@eppu/core/mesh';
import type { ShownModel } from '../studio/protocol.ts';

/** What the model view needs to draw a model of an open project. */
export function shownModel(engine: Engine, id: Id): ShownModel | null {
	const scene = engine.scene(id);
	if (!scene) return null;
	const { mesh, model, topology } = scene;
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
		parts: mesh.parts.map((part, i) => ({
			...part,
			sheet: model.parts[i]?.sheet ?? (engine.project.sheets[0]?.id as Id),
		})),
		partOfFace: Uint16Array.from({ length: mesh.indices.length / 3 }, (_, face) => scene.partOfFace(face)),
		islandOfFace: topology.islandOfFace,
		seams,
		inner: topology.inner,
		borders: topology.borders,
		center,
		radius,
	};
}
