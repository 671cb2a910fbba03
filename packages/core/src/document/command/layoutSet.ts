import { surfacesOfProject } from '../layerTree.ts';
import { MOST_MODELS, type Model, type Sheet } from '../types.ts';
import { CommandError, type CommandKind } from './kind.ts';
import { notTooDeep } from './need.ts';

/**
 * Puts other sheets and models in the place of the project's: a new layout, size or sharing of sheets, models that come,
 * go or are exchanged, with the paint that was carried onto surfaces of its own.
 */
export interface LayoutSet {
	readonly do: 'layout.set';
	readonly sheets: readonly Sheet[];
	readonly models: readonly Model[];
	readonly words: string;
}

export const layoutSet: CommandKind<LayoutSet> = {
	do: 'layout.set',
	apply(project, command) {
		if (command.models.length > MOST_MODELS)
			throw new CommandError(`A project holds ${MOST_MODELS} models at the most. Nothing was changed.`);
		if (command.sheets.length === 0) throw new CommandError('A project has one sheet at least. Nothing was changed.');
		for (const { layers } of command.sheets) notTooDeep(layers);
		const { sheets, models } = project;
		return {
			project: { ...project, sheets: command.sheets, models: command.models },
			inverse: { do: 'layout.set', sheets, models, words: command.words } satisfies LayoutSet as LayoutSet,
			words: command.words,
		};
	},
	surfaces: (command) =>
		surfacesOfProject(command).map(({ id, format }) => ({ id, format, sheet: null, start: 'empty' })),
	touched: () => 'everything',
};
