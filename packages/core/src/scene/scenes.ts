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

/** A mesh laid out, and how its faces hang together there. */
type Body = readonly [LaidMesh, Topology];

/** Whether two states of a model have the same scene: what is baked of it is no part of it. */
const liesAlike = (a: Model, b: Model): boolean =>
	a === b ||
	[...Object.keys(a), ...Object.keys(b)].every(
		(key) => key === 'bakes' || a[key as keyof Model] === b[key as keyof Model],
	);

/** `meshOf` gives a model's mesh as its file says, `layoutFor` the layout of its own that a model has; null where it lies as its file says. */
export function createScenes(
	kernels: Kernels,
	meshOf: (model: Model) => LaidMesh | undefined,
	layoutFor: (model: Model) => Layout | null = () => null,
): Scenes {
	/** Each model's mesh laid out as it is now, and as its file says: what stays the same while parts are shown or put elsewhere. */
	const laid = new Map<Id, { readonly of: LaidMesh; readonly layout: string | null; readonly body: Body }>();
	const own = new WeakMap<LaidMesh, Body>();
	const bodyOf = (mesh: LaidMesh, layout: Layout): Body => {
		const made = layOut(mesh, layout);
		return [made, topologyOf(made)];
	};
	const ownOf = (mesh: LaidMesh): Body => {
		let found = own.get(mesh);
		if (!found) own.set(mesh, (found = bodyOf(mesh, layoutOf(mesh))));
		return found;
	};
	/** With the names that the artist gave its parts. */
	const named = new WeakMap<LaidMesh, LaidMesh>();
	const withNames = ({ parts }: Model, [mesh, topology]: Body): Body => {
		const differs = (list: LaidMesh['parts']): boolean =>
			list.some(({ name }, i) => parts[i] !== undefined && parts[i].name !== name);
		const known = named.get(mesh);
		if (known && !differs(known.parts)) return [known, topology];
		if (!differs(mesh.parts)) return [mesh, topology];
		const made = { ...mesh, parts: mesh.parts.map((part, i) => ({ ...part, name: parts[i]?.name ?? part.name })) };
		named.set(mesh, made);
		return [made, topology];
	};
	const laidOf = (model: Model, mesh: LaidMesh): Body => {
		const name = model.layout?.surface ?? null;
		const known = laid.get(model.id);
		if (known && known.of === mesh && known.layout === name) return known.body;
		const layout = layoutFor(model);
		const body = layout ? bodyOf(mesh, layout) : ownOf(mesh);
		laid.set(model.id, { of: mesh, layout: name, body });
		return body;
	};
	const map = new Map<Id, Scene>();
	const renew = (model: Model): void => {
		const before = map.get(model.id);
		if (before && liesAlike(before.model, model)) return;
		const mesh = meshOf(model);
		if (!mesh) return;
		before?.drop();
		map.set(model.id, createScene(kernels, model, ...withNames(model, laidOf(model, mesh))));
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
			const mesh = meshOf(model) as LaidMesh;
			const body = layout ? bodyOf(mesh, layout) : layout === null ? ownOf(mesh) : laidOf(model, mesh);
			return createScene(kernels, model, ...withNames(model, body));
		},
		drop,
	};
}
