import type { Id, IslandName } from '../types.ts';
import { CommandError, type CommandKind } from './kind.ts';
import { needName } from './need.ts';

/** Islands of a model are called otherwise. */
export interface IslandsSet {
	readonly do: 'islands.set';
	readonly model: Id;
	readonly islands: readonly IslandName[];
}

export const islandsSet: CommandKind<IslandsSet> = {
	do: 'islands.set',
	apply(project, { model: id, islands }) {
		const model = project.models.find((each) => each.id === id);
		if (!model) throw new CommandError('That model is not in this project any more. Nothing was changed.');
		for (const { name } of islands) needName(name);
		const before = model.islands ?? [];
		const added = islands.find(({ face, name }) => !before.some((each) => each.face === face && each.name === name));
		return {
			project: { ...project, models: project.models.map((each) => (each === model ? { ...model, islands } : each)) },
			inverse: { do: 'islands.set', model: id, islands: before } satisfies IslandsSet as IslandsSet,
			words: added ? `Call an island "${added.name}"` : 'Take an island’s name away',
		};
	},
	touched: () => 'nothing',
};
