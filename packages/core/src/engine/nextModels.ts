import { marksAcross } from '../carry/index.ts';
import { CommandError, type Model, type ModelPart, type Numbers } from '../document/index.ts';
import { bytesOfLayout } from '../layout/index.ts';
import type { LaidMesh } from '../mesh/index.ts';
import { bytesOfSurface, type Surface, surfaceOfBytes } from '../surface/index.ts';
import { jointsOf, markEdge } from '../unwrap/index.ts';
import type { ModelHead, Relaying } from './relaying.ts';
import type { Workspace } from './workspace.ts';

/** A model as a change says it: known ones go on with what the page does not say of them. */
function modelOf({ meshes, project }: Workspace, { id, name, asset, parts }: ModelHead): Model {
	const known = project.models.find((model) => model.id === id);
	const mesh = meshes.get(asset.hash) as LaidMesh | undefined;
	if (!mesh && known?.asset.hash !== asset.hash)
		throw new CommandError(`The file of "${name}" (${asset.name}) is not at hand. Nothing was changed.`);
	if (mesh && mesh.parts.length !== parts.length)
		throw new CommandError(`"${asset.name}" has other parts than were named. Nothing was changed.`);
	if (known?.asset.hash !== asset.hash) {
		// A part is known by the name that its file gives it; what the artist calls it, and its sheet, stay.
		const old = known && meshes.get(known.asset.hash)?.parts;
		const before = (i: number): ModelPart | undefined => {
			const at = old?.findIndex((part) => part.name === mesh?.parts[i]?.name) ?? -1;
			return at < 0 ? undefined : known?.parts[at];
		};
		// Bakes are made anew of the newer shape; islands are others, so their names go.
		const bakes = known?.bakes ? { bakes: known.bakes } : {};
		return { id, name, asset, ...bakes, parts: parts.map((part, i) => ({ shown: true, ...part, ...before(i) })) };
	}
	const same =
		known.name === name &&
		parts.every((part, i) => known.parts[i]?.sheet === part.sheet && known.parts[i]?.name === part.name);
	return same ? known : { ...known, name, parts: known.parts.map((part, i) => ({ ...part, ...parts[i] })) };
}

/** The models after a change; one that does not change is the same object. `add` takes the surfaces of their layouts. */
export function nextModels(
	workspace: Workspace,
	change: Relaying,
	newId: () => string,
	add: (surface: Surface) => void,
): Model[] {
	const kept = (bytes: Uint8Array): Numbers => {
		const surface = surfaceOfBytes(workspace.kernels, newId(), bytes);
		add(surface);
		return { surface: surface.id, bytes: bytes.length };
	};
	const keptMarks = (marks: Uint8Array): Numbers | null => (marks.some((mark) => mark !== 0) ? kept(marks) : null);
	/** Marks of seams lie on the newer surface where they lay on the one before. */
	const marked = (model: Model): Model => {
		const known = workspace.project.models.find(({ id }) => id === model.id);
		const [before, now] = [known, model].map((each) => each && workspace.meshes.get(each.asset.hash));
		const surface = workspace.surfaces.get(known?.seams?.surface ?? '');
		if (!surface || !before || !now || known?.asset.hash === model.asset.hash) return model;
		const marks = marksAcross(before, bytesOfSurface(workspace.kernels.heap, surface, before.indices.length), now);
		const seams = keptMarks(marks);
		return seams ? { ...model, seams } : model;
	};
	const unmarked = (model: Model, corners: readonly number[]): Numbers | null => {
		const scene = workspace.scenes.get(model.id);
		const surface = workspace.surfaces.get(model.seams?.surface ?? '');
		if (!scene || !surface) return model.seams ?? null;
		const marks = bytesOfSurface(workspace.kernels.heap, surface, scene.mesh.indices.length);
		const joints = jointsOf(scene.mesh, scene.topology.place);
		for (const corner of corners) markEdge(joints, marks, corner, 0);
		return keptMarks(marks);
	};
	const models = change.models?.map((head) => marked(modelOf(workspace, head))) ?? workspace.project.models;
	return models.map((model): Model => {
		const layout = change.layouts?.get(model.id);
		const sheets = change.parts?.get(model.id);
		const parts = sheets
			? model.parts.map((part, i) => (sheets[i] === part.sheet ? part : { ...part, sheet: sheets[i] ?? part.sheet }))
			: model.parts;
		const seams = change.unmarked?.has(model.id) ? { seams: unmarked(model, change.unmarked.get(model.id) ?? []) } : {};
		if (layout === undefined && !('seams' in seams))
			return parts.some((part, i) => part !== model.parts[i]) ? { ...model, parts } : model;
		return {
			...model,
			...seams,
			parts,
			...(layout === undefined ? {} : { layout: layout && kept(bytesOfLayout(layout)) }),
		};
	});
}
