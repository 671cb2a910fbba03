import { CommandError, changeProblem, type Sheet, surfacesOfSheet } from '../document/index.ts';
import { createSurface, type Picture, pictureIntoSurface, type SurfaceId } from '../surface/index.ts';
import type { Dirty } from './dirty.ts';
import type { Engine } from './engine.ts';
import type { Workspace } from './workspace.ts';

/** Sheets that come from elsewhere with their pictures. */
export function bringing(workspace: Workspace): Pick<Engine, 'bringSheet' | 'bringLayers' | 'takeLayers'> {
	const { kernels, addSurface, need, run } = workspace;
	/** Puts surfaces in place with what lies on them; those without stay empty. */
	const lay = (sheet: Sheet, texels: ReadonlyMap<SurfaceId, Picture>): void => {
		for (const { id, format } of surfacesOfSheet(sheet)) {
			const picture = texels.get(id);
			if (!picture) continue;
			const surface = createSurface(id, format, sheet.width, sheet.height);
			pictureIntoSurface(kernels, picture, surface);
			addSurface(surface);
		}
	};
	/** A document that would not be one is told before anything is put in place. */
	const check = (sheets: readonly Sheet[]): void => {
		const problem = changeProblem({ ...workspace.project, sheets });
		if (problem) throw new CommandError(`${problem} Nothing was changed.`);
	};
	const bring = (sheet: Sheet, texels: ReadonlyMap<SurfaceId, Picture>): Dirty => {
		check([...workspace.project.sheets, sheet]);
		lay(sheet, texels);
		return run({ do: 'sheet.add', sheet });
	};
	return {
		bringSheet(sheet: Sheet, picture: Picture) {
			if (picture.width !== sheet.width || picture.height !== sheet.height)
				throw new CommandError(`The picture is not of the size of "${sheet.name}". Nothing was changed.`);
			const [first, ...rest] = surfacesOfSheet(sheet);
			if (!first || rest.length)
				throw new CommandError(`"${sheet.name}" is to come with one paint layer. Nothing was changed.`);
			return bring(sheet, new Map([[first.id, picture]]));
		},
		bringLayers: bring,
		takeLayers(sheetId, layers, texels, words) {
			const sheet = need(sheetId);
			const next = { ...sheet, layers };
			check(workspace.project.sheets.map((each) => (each.id === sheetId ? next : each)));
			lay(next, texels);
			return run({ do: 'layers.set', sheet: sheetId, layers, words });
		},
	};
}
