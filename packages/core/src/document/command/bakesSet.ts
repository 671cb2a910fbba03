import type { Bake } from '../../light/index.ts';
import type { Id, Model } from '../types.ts';
import { CommandError, type CommandKind } from './kind.ts';
import { needName } from './need.ts';

/** A model has other bakes. */
export interface BakesSet {
	readonly do: 'bakes.set';
	readonly model: Id;
	readonly bakes: readonly Bake[];
	/** Put in words by what differs where it is left out. */
	readonly words?: string;
}

/** More bakes than these are not kept of a model. */
export const MOST_BAKES = 32;

function wordsOf(before: readonly Bake[], after: readonly Bake[]): string {
	const added = after.find(({ id }) => !before.some((each) => each.id === id));
	if (added) return `Bake "${added.name}"`;
	const gone = before.find(({ id }) => !after.some((each) => each.id === id));
	if (gone) return `Take the bake "${gone.name}" away`;
	const changed = after.find((each) => !before.includes(each));
	return changed ? `Change the bake "${changed.name}"` : 'Change the bakes';
}

export const bakesSet: CommandKind<BakesSet> = {
	do: 'bakes.set',
	apply(project, { model: id, bakes, words }) {
		const model = project.models.find((each) => each.id === id);
		if (!model) throw new CommandError('That model is not in this project any more. Nothing was changed.');
		if (bakes.length > MOST_BAKES)
			throw new CommandError(`A model has ${MOST_BAKES} bakes at the most. Nothing was changed.`);
		if (new Set(bakes.map((each) => each.id)).size < bakes.length)
			throw new CommandError('That bake is there already. Nothing was changed.');
		for (const { name } of bakes) needName(name);
		const before = model.bakes ?? [];
		const next: Model = { ...model, bakes };
		return {
			project: { ...project, models: project.models.map((each) => (each === model ? next : each)) },
			inverse: { do: 'bakes.set', model: id, bakes: before } satisfies BakesSet as BakesSet,
			words: words ?? wordsOf(before, bakes),
		};
	},
	touched: () => 'nothing',
};
