import { missedIdOf } from '../derive/index.ts';
import { pictureOfSurface } from '../surface/index.ts';
import type { Workspace } from './workspace.ts';

/** The share of a model's texels where a bake met nothing of its finer mesh; null where that is not known. */
export function missedShare(workspace: Workspace, bake: string): number | null {
	const { kernels, project, surfaces, derivation, sceneOf } = workspace;
	let [all, missed] = [0, 0];
	for (const sheet of project.sheets) {
		const [id, scene] = [missedIdOf(bake, sheet), sceneOf(sheet.id)];
		const surface = surfaces.get(id);
		if (!surface || !scene) continue;
		if (derivation.leftOf(id)) return null;
		const { data } = pictureOfSurface(kernels, surface);
		scene.mapOf(sheet).faceOfTexel.forEach((face, i) => {
			if (face === 0) return;
			all++;
			if (data[i]) missed++;
		});
	}
	return all ? missed / all : null;
}
