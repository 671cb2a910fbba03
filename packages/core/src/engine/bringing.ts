import { CommandError, changeProblem, type Sheet, surfacesOfSheet } from '../document/index.ts';
import { createSurface, type Picture, pictureIntoSurface } from '../surface/index.ts';
import type { Engine } from './engine.ts';
import type { Workspace } from './workspace.ts';

/** Sheets that come from elsewhere with their pictures. */
export function bringing(workspace: Workspace): Pick<Engine, 'bringSheet' | 'takeLayers'> {
	const { kernels, carry, addSurface, history, need, run } = workspace;
	return {
		bringSheet(sheet: Sheet, picture: Picture) {
			if (picture.width !== sheet.width || picture.height !== sheet.height)
				throw new CommandError(`The picture is not of the size of "${sheet.name}". Nothing was changed.`);
			const [first, ...rest] = surfacesOfSheet(sheet);
			if (!first || rest.length)
				throw new CommandError(`"${sheet.name}" is to come with one paint layer. Nothing was changed.`);
			const surface = createSurface(first.id, first.format, sheet.width, sheet.height);
			pictureIntoSurface(kernels, picture, surface);
			addSurface(surface);
			const command = { do: 'sheet.add' as const, sheet };
			const { inverse, dirty, words } = carry(command);
			history.push({ words, undo: [inverse], redo: [command], records: [] });
			return dirty;
		},
		takeLayers(sheetId, layers, texels, words) {
			const sheet = need(sheetId);
			const next = { ...sheet, layers };
			const { project } = workspace;
			const problem = changeProblem({
				...project,
				sheets: project.sheets.map((each) => (each.id === sheetId ? next : each)),
			});
			if (problem) throw new CommandError(`${problem} Nothing was changed.`);
			for (const { id, format } of surfacesOfSheet(next)) {
				const picture = texels.get(id);
				if (!picture) continue;
				const surface = createSurface(id, format, sheet.width, sheet.height);
				pictureIntoSurface(kernels, picture, surface);
				addSurface(surface);
			}
			return run({ do: 'layers.set', sheet: sheetId, layers, words });
		},
	};
}
