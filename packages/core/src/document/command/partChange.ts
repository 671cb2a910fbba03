import type { Id, ModelPart } from '../types.ts';
import { CommandError, type CommandKind } from './kind.ts';
import { needSheet } from './need.ts';

/** Puts a part of a model on another sheet; the paint stays where it is. */
export interface PartChange {
	readonly do: 'part.change';
	readonly model: Id;
	/** Its place among the model's parts. */
	readonly part: number;
	readonly change: Pick<ModelPart, 'sheet'>;
}

export const partChange: CommandKind<PartChange> = {
	do: 'part.change',
	apply(project, { model: id, part: at, change }) {
		const model = project.models.find((each) => each.id === id);
		const part = model?.parts[at];
		if (!model || !part) throw new CommandError('That part is not in this project any more. Nothing was changed.');
		const sheet = needSheet(project, change.sheet);
		const parts = model.parts.map((each) => (each === part ? { ...part, ...change } : each));
		return {
			project: { ...project, models: project.models.map((each) => (each === model ? { ...model, parts } : each)) },
			inverse: {
				do: 'part.change',
				model: id,
				part: at,
				change: { sheet: part.sheet },
			} satisfies PartChange as PartChange,
			words: `"${part.name}" on "${sheet.name}"`,
		};
	},
	touched: ({ model }) => ({ model }),
};
