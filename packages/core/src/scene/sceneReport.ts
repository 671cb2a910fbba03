import type { Sheet } from '../document/index.ts';
import { type MeshReport, reportOf } from '../report/index.ts';
import type { Scene } from './scene.ts';

/** What a model is like on the sheets that its parts lie on now. */
export const sceneReport = ({ mesh, topology, model }: Scene, sheets: readonly Sheet[]): MeshReport =>
	reportOf({
		mesh,
		topology,
		sheets,
		sheetOfPart: mesh.parts.map((_, part) => sheets.findIndex(({ id }) => id === model.parts[part]?.sheet)),
	});
