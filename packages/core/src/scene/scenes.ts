import type { Kernels } from '@eppu/kernels';
import type { Id, Model, Project } from '../document/index.ts';
import { type Layout, layOut, layoutOf } from '../layout/index.ts';
import { type LaidMesh, type Mesh, type Topology, topologyOf } from '../mesh/index.ts';
import { createScene, type Scene } from './scene.ts';

interface Body {
	readonly mesh: Mesh;
	readonly layout: Layout;
}

/** The scenes of a project's models: each is replaced when its model changes. */
export interface Scenes {
	readonly map: ReadonlyMap<Id, Scene>;
	/** After the document changed. */
	follow(project: Project): void;
	drop(): void;
}

export function createScenes(kernels: Kernels, meshes: ReadonlyMap<Id, LaidMesh>): Scenes {
	/** Each model's mesh, and beside it how it is laid out: as its file says. */
	const bodies = new Map<Id, Body>([...meshes].map(([id, mesh]) => [id, { mesh, layout: layoutOf(mesh) }]));
	/** What stays the same while only parts are shown, hidden or put elsewhere. */
	const laid = new Map<Body, readonly [LaidMesh, Topology]>();
	const laidOf = (body: Body): readonly [LaidMesh, Topology] => {
		const known = laid.get(body);
		if (known) return known;
		const mesh = layOut(body.mesh, body.layout);
		const made = [mesh, topologyOf(mesh)] as const;
		laid.set(body, made);
		return made;
	};
	const map = new Map<Id, Scene>();
	const renew = (model: Model): void => {
		const before = map.get(model.id);
		if (before?.model === model) return;
		const body = bodies.get(model.id);
		if (!body) return;
		before?.drop();
		map.set(model.id, createScene(kernels, model, ...laidOf(body)));
	};
	return {
		map,
		follow(project) {
			for (const [id, scene] of map)
				if (!project.models.some((model) => model.id === id)) {
					scene.drop();
					map.delete(id);
				}
			for (const model of project.models) renew(model);
		},
		drop() {
			for (const scene of map.values()) scene.drop();
			map.clear();
		},
	};
}
