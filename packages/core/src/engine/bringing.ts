import { CommandError, changeProblem, type Sheet, surfacesOfSheet } from '../document/index.ts';
import { createSurface, type Picture, pictureIntoSurface, type SurfaceId, type TileRecord } from '../surface/index.ts';
import type { Dirty } from './dirty.ts';
import type { Engine } from './engine.ts';
import type { Workspace } from './workspace.ts';

/** Sheets that come from elsewhere with their pictures. */
export function bringing(workspace: Workspace): Pick<Engine, 'bringSheet' | 'bringLayers' | 'takeLayers'> {
	const { kernels, surfaces, unders, addSurface, need, run, pushRecord } = workspace;
	/** Puts surfaces that are not there yet in place with what lies on them; those without stay empty. */
	const lay = (sheet: Sheet, texels: ReadonlyMap<SurfaceId, Picture>): void => {
		for (const { id, format } of surfacesOfSheet(sheet)) {
			const picture = surfaces.has(id) ? undefined : texels.get(id);
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
			const there = surfacesOfSheet(next).flatMap(({ id }) => surfaces.get(id) ?? []);
			lay(next, texels);
			unders.drop();
			const records = there.flatMap((surface): TileRecord[] => {
				const picture = texels.get(surface.id);
				return picture ? [pictureIntoSurface(kernels, picture, surface, 'other')] : [];
			});
			const set = { do: 'layers.set' as const, sheet: sheetId, layers, words };
			if (records.every(({ tiles }) => tiles.size === 0)) return run(set);
			const same = JSON.stringify(layers) === JSON.stringify(sheet.layers);
			return pushRecord(words, records, sheetId, undefined, same ? [] : [set]);
		},
	};
}
