import { surfacesOfProject } from '../layerTree.ts';
import type { Model, Project, Sheet } from '../types.ts';
import { CommandError, type CommandKind } from './kind.ts';
import { notTooDeep } from './need.ts';

/**
 * Puts other sheets and models in the place of the project's: a new layout, size or sharing of sheets, with the paint
 * that was carried onto surfaces of its own. The same models stay, in their order; so do their parts.
 */
export interface LayoutSet {
	readonly do: 'layout.set';
	readonly sheets: readonly Sheet[];
	readonly models: readonly Model[];
	readonly words: string;
}

const stillFits = ({ models }: Project, command: LayoutSet): boolean =>
	command.models.length === models.length &&
	command.models.every(
		({ id, asset, parts }, i) =>
			models[i]?.id === id && models[i].asset.hash === asset.hash && models[i].parts.length === parts.length,
	);

export const layoutSet: CommandKind<LayoutSet> = {
	do: 'layout.set',
	apply(project, command) {
		if (!stillFits(project, command))
			throw new CommandError('That layout belongs to other models than are here now. Nothing was changed.');
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
