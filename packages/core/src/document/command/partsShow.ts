import type { Id } from '../types.ts';
import { CommandError, type CommandKind } from './kind.ts';

/** Shows some parts of a model and hides the others: hidden ones are not seen and take no paint from the model's view. */
export interface PartsShow {
	readonly do: 'parts.show';
	readonly model: Id;
	/** Per part, in their order. */
	readonly shown: readonly boolean[];
}

export const partsShow: CommandKind<PartsShow> = {
	do: 'parts.show',
	apply(project, { model: id, shown }) {
		const model = project.models.find((each) => each.id === id);
		if (!model || model.parts.length !== shown.length)
			throw new CommandError('Those parts are not in this project any more. Nothing was changed.');
		const parts = model.parts.map((part, i) =>
			part.shown === shown[i] ? part : { ...part, shown: shown[i] === true },
		);
		const changed = model.parts.filter((part, i) => part.shown !== shown[i]);
		const left = parts.filter((part) => part.shown);
		const words =
			changed.length === 1
				? `${changed[0]?.shown ? 'Hide' : 'Show'} "${changed[0]?.name}"`
				: left.length === 1
					? `Show "${left[0]?.name}" alone`
					: left.length === parts.length
						? `Show all of "${model.name}"`
						: `Show ${left.length} parts of "${model.name}"`;
		return {
			project: { ...project, models: project.models.map((each) => (each === model ? { ...model, parts } : each)) },
			inverse: { do: 'parts.show', model: id, shown: model.parts.map((part) => part.shown) },
			words,
		};
	},
	touched: ({ model }) => ({ model }),
};
