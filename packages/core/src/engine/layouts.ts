import type { Size } from '../carry/index.ts';
import type { Id, Model } from '../document/index.ts';
import { bytesOfLayout } from '../layout/index.ts';
import type { Scene } from '../scene/index.ts';
import { type Surface, surfaceOfBytes } from '../surface/index.ts';
import { carriedSheet } from './carriedSheet.ts';
import type { Engine } from './engine.ts';
import type { CarriedSheet } from './relaying.ts';
import type { Workspace } from './workspace.ts';

const sameSize = (a: Size, b: Size): boolean => a.width === b.width && a.height === b.height;

/** How models lie on their sheets, and what becomes of the paint where that changes. */
export function layouts(workspace: Workspace): Pick<Engine, 'relay'> {
	const { kernels, scenes, addSurface, run } = workspace;

	return {
		relay(change, words, newId) {
			const { project } = workspace;
			const made: Surface[] = [];
			const models = (change.models ?? project.models).map((model): Model => {
				const layout = change.layouts?.get(model.id);
				if (layout === undefined) return model;
				if (layout === null) return { ...model, layout: null };
				const bytes = bytesOfLayout(layout);
				const surface = surfaceOfBytes(kernels, newId(), bytes);
				made.push(surface);
				return { ...model, layout: { surface: surface.id, bytes: bytes.length } };
			});
			const before = new Map([...scenes]);
			const after = new Map<Id, Scene>();
			for (const [i, model] of models.entries()) {
				const scene = before.get(model.id);
				if (!scene) continue;
				const same = model === project.models[i];
				after.set(model.id, same ? scene : workspace.sceneAs(model, change.layouts?.get(model.id)));
			}
			const fresh = [...after.values()].filter((scene) => before.get(scene.model.id) !== scene);
			const scenery = { project, before, after };
			try {
				const report: CarriedSheet[] = [];
				const sheets = (change.sheets ?? project.sheets).map((sheet) => {
					const old = project.sheets.find(({ id }) => id === sheet.id);
					const touched =
						!old ||
						!sameSize(old, sheet) ||
						sheet.layers !== old.layers ||
						fresh.some(({ model }) =>
							[model, before.get(model.id)?.model].some((each) => each?.parts.some((part) => part.sheet === sheet.id)),
						);
					if (!touched) return sheet;
					const found = carriedSheet(workspace, sheet, scenery, newId, (surface) => void made.push(surface));
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
