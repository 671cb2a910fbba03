import { type Across, acrossOf, byNumber } from '../carry/index.ts';
import { CommandError, type Id, type Model, type Sheet, surfacesOfSheet } from '../document/index.ts';
import { isFigureName, type LaidMesh, type Part } from '../mesh/index.ts';
import type { Scene } from '../scene/index.ts';
import { bytesOfSurface, type Surface, surfaceOfBytes } from '../surface/index.ts';
import { jointsOf, markEdge } from '../unwrap/index.ts';
import { carriedSheet } from './carriedSheet.ts';
import type { Engine } from './engine.ts';
import { nextModels } from './nextModels.ts';
import { nextSheets, surfacesWord } from './nextSheets.ts';
import type { CarriedSheet } from './relaying.ts';
import type { Workspace } from './workspace.ts';

/** Whether paint lies elsewhere on a sheet than it did, apart from how models lie on it. */
const isOther = (old: Sheet, sheet: Sheet): boolean =>
	old.width !== sheet.width ||
	old.height !== sheet.height ||
	old.bleed !== sheet.bleed ||
	surfacesWord(old) !== surfacesWord(sheet);

/** Whether a model lies otherwise on a sheet: in another layout, or with other parts. */
function liesElse(before: Scene | undefined, { model: is }: Scene, sheet: Id): boolean {
	const here = (model: Model | undefined): number[] =>
		model?.parts.flatMap((part, i) => (part.sheet === sheet ? [i] : [])) ?? [];
	const was = before?.model;
	const [old, now] = [here(was), here(is)];
	if (old.join() !== now.join()) return true;
	return now.length > 0 && (was?.layout?.surface !== is.layout?.surface || was?.asset.hash !== is.asset.hash);
}

/** How models lie on their sheets, and what becomes of the paint where that changes. */
export function layouts(workspace: Workspace): Pick<Engine, 'relay' | 'seams' | 'markSeams'> {
	const { kernels, scenes, surfaces, addSurface, run } = workspace;
	const seams = (model: Id): Uint8Array => {
		const scene = scenes.get(model);
		const corners = scene?.mesh.indices.length ?? 0;
		const kept = scene?.model.seams;
		const surface = surfaces.get(kept?.surface ?? '');
		return kept && surface ? bytesOfSurface(kernels.heap, surface, corners) : new Uint8Array(corners);
	};

	return {
		seams,
		markSeams(model, change, words, newId) {
			const marks = seams(model);
			const scene = scenes.get(model);
			if (!scene) throw new CommandError('That model is not in this project any more. Nothing was changed.');
			const joints = jointsOf(scene.mesh, scene.topology.place);
			if (change.anew) marks.fill(0);
			for (const corner of change.corners) markEdge(joints, marks, corner, change.on ? 1 : 0);
			const surface = surfaceOfBytes(kernels, newId(), marks);
			const none = marks.every((mark) => mark === 0);
			if (!none) addSurface(surface);
			return run({
				do: 'model.seams',
				model,
				seams: none ? null : { surface: surface.id, bytes: marks.length },
				words,
			});
		},
		relay(change, words, newId, far = () => undefined) {
			const { project } = workspace;
			const made: Surface[] = [];
			const add = (surface: Surface): void => void made.push(surface);
			const before = new Map([...scenes]);
			const models = nextModels(workspace, change, newId, add);
			const after = new Map<Id, Scene>();
			for (const model of models) {
				const scene = before.get(model.id);
				const same = project.models.includes(model);
				if (same && scene) after.set(model.id, scene);
				else if (!same && workspace.meshes.has(model.asset.hash))
					after.set(model.id, workspace.sceneAs(model, change.layouts?.get(model.id)));
			}
			const fresh = [...after.values()].filter((scene) => before.get(scene.model.id) !== scene);
			try {
				const side = Math.max(...project.sheets.flatMap(({ width, height }) => [width, height]));
				const across = new Map(
					fresh.flatMap((scene): [Id, Across][] => {
						const was = before.get(scene.model.id);
						if (!was || was.model.asset.hash === scene.model.asset.hash) return [];
						// Parts are matched by the names that their files give them.
						const ofFile = ({ mesh, model }: Scene): LaidMesh => ({
							...mesh,
							parts: workspace.meshes.get(model.asset.hash)?.parts ?? mesh.parts,
						});
						const [old, next] = [ofFile(was), ofFile(scene)];
						const boxes = [was, scene].every(({ model }) => isFigureName(model.asset.name));
						return [[scene.model.id, acrossOf(old, boxes ? byNumber(old, next) : next, side)]];
					}),
				);
				const from = (model: Id, part: number): Id | undefined => {
					const [was, now, found] = [before.get(model), after.get(model), across.get(model)];
					if (!found || !was || !now) return project.models.find(({ id }) => id === model)?.parts[part]?.sheet;
					const { firstFace, faces } = now.mesh.parts[part] as Part;
					const old = found.faceOf.subarray(firstFace, firstFace + faces).find((face) => face >= 0);
					return old === undefined ? undefined : was.model.parts[was.partOfFace(old)]?.sheet;
				};
				const scenery = { project, before, after, across };
				const report: CarriedSheet[] = [];
				const laid = (sheet: Sheet): boolean =>
					fresh.some((scene) => liesElse(before.get(scene.model.id), scene, sheet.id));
				const next = nextSheets(workspace, project, models, change, after, from, newId, add);
				const due = new Set(
					next.filter((sheet) => {
						const old = project.sheets.find(({ id }) => id === sheet.id);
						return !old || laid(sheet) || isOther(old, sheet);
					}),
				);
				const all = [...due].reduce((sum, sheet) => sum + surfacesOfSheet(sheet).length, 0);
				let done = 0;
				const sheets = next.map((sheet) => {
					if (!due.has(sheet)) return sheet;
					const carried = (): void => far(++done / all);
					const found = carriedSheet(workspace, sheet, scenery, !laid(sheet), newId, add, carried);
					report.push(found.report);
					return found.sheet;
				});
				for (const surface of made) addSurface(surface);
				return { dirty: run({ do: 'layout.set', sheets, models, words }), report };
			} finally {
				for (const scene of fresh) scene.drop();
			}
		},
	};
}
