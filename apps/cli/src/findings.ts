import { findAll } from '@eppu/core/check';
import { colorsOfTexels, pixelColors } from '@eppu/core/pixel';
import { sceneReport } from '@eppu/core/scene';
import { withKept } from './commands.ts';

/** Something that a check finds in a project. */
export interface ProjectFinding {
	/** The model or sheet. */
	readonly of: string;
	readonly check: string;
	readonly words: string;
	/** What can be done about it. */
	readonly todo: string | null;
}

/** All that the checks find in a project: its models as they lie on their sheets, its pixel sheets. */
export const findingsOf = (project: string, data?: string): Promise<ProjectFinding[]> =>
	withKept(project, data, async (engine) => {
		const { models, sheets, palette } = engine.project;
		const ofModels = models.flatMap(({ id, name }) => {
			const scene = engine.scene(id);
			if (!scene) return [];
			return sceneReport(scene, sheets).findings.map(({ kind, words, todo }) => ({
				of: name,
				check: kind,
				words,
				todo,
			}));
		});
		const pixel = sheets.filter((sheet) => sheet.pixel);
		const pictures = new Map(pixel.map(({ id }) => [id, engine.composite(id)]));
		const ofSheets = pixel.flatMap(({ id, name }) => {
			const picture = pictures.get(id);
			if (!picture) return [];
			const set = new Set(
				[...pictures].flatMap(([other, { data: texels }]) =>
					other === id ? [] : colorsOfTexels(texels).colors.map(([color]) => color),
				),
			);
			const checked = { picture, palette: pixelColors(palette), set: pixel.length > 1 ? set : null };
			return findAll(checked).map(({ check, finding }) => ({
				of: name,
				check: check.name,
				words: finding.text,
				todo: finding.mend?.label ?? null,
			}));
		});
		return [...ofModels, ...ofSheets];
	});
