import type { Kernels } from '@eppu/kernels';
import type { Id, Model, Project } from '../document/index.ts';
import { type Layout, layOut, layoutOf } from '../layout/index.ts';
import { type LaidMesh, type Topology, topologyOf } from '../mesh/index.ts';
import { createScene, type Scene } from './scene.ts';

/** The scenes of a project's models: each is replaced when its model changes. */
export interface Scenes {
	readonly map: ReadonlyMap<Id, Scene>;
	/** After the document changed. */
	follow(project: Project): void;
	/** Layouts are read anew: those of models came later than the models did. */
	again(project: Project): void;
	/**
	 * A model's scene as if the model were another, to look at beforehand; whoever asks drops it. It lies as `layout` says,
	 * as its file where that is null, as now where it is left out.
	 */
	as(model: Model, layout?: Layout | null): Scene;
	drop(): void;
}

/** `layoutFor` gives the layout of its own that a model has; null where it lies as its file says. */
export function createScenes(
	kernels: Kernels,
	meshes: ReadonlyMap<Id, LaidMesh>,
	layoutFor: (model: Model) => Layout | null = () => null,
): Scenes {
	/** Each model's mesh laid out as it is now, and as its file says: what stays the same while parts are shown or put elsewhere. */
	const laid = new Map<Id, { readonly layout: string | null; readonly body: readonly [LaidMesh, Topology] }>();
	const own = new Map<Id, readonly [LaidMesh, Topology]>();
	const bodyOf = (mesh: LaidMesh, layout: Layout): readonly [LaidMesh, Topology] => {
		const made = layOut(mesh, layout);
		return [made, topologyOf(made)];
	};
	const ownOf = (id: Id, mesh: LaidMesh): readonly [LaidMesh, Topology] => {
		let found = own.get(id);
		if (!found) own.set(id, (found = bodyOf(mesh, layoutOf(mesh))));
		return found;
	};
	const laidOf = (model: Model, mesh: LaidMesh): readonly [LaidMesh, Topology] => {
		const name = model.layout?.surface ?? null;
		const known = laid.get(model.id);
		if (known && known.layout === name) return known.body;
		const layout = layoutFor(model);
		const body = layout ? bodyOf(mesh, layout) : ownOf(model.id, mesh);
		laid.set(model.id, { layout: name, body });
		return body;
	};
	const map = new Map<Id, Scene>();
	const renew = (model: Model): void => {
		const before = map.get(model.id);
		if (before?.model === model) return;
		const mesh = meshes.get(model.id);
		if (!mesh) return;
		before?.drop();
		map.set(model.id, createScene(kernels, model, ...laidOf(model, mesh)));
	};
	const drop = (): void => {
		for (const scene of map.values()) scene.drop();
		map.clear();
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
		again(project) {
			laid.clear();
			drop();
			for (const model of project.models) renew(model);
		},
		as(model, layout) {
			const mesh = meshes.get(model.id) as LaidMesh;
			const body = layout ? bodyOf(mesh, layout) : layout === null ? ownOf(model.id, mesh) : laidOf(model, mesh);
			return createScene(kernels, model, ...body);
		},
		drop,
	};
}
