import { placeOfNumbers } from '../layerTree.ts';
import type { Id, Numbers } from '../types.ts';
import { CommandError, type CommandKind } from './kind.ts';

/** Puts other marks on the edges of a model at which it is to be cut. */
export interface ModelSeams {
	readonly do: 'model.seams';
	readonly model: Id;
	readonly seams: Numbers | null;
	readonly words: string;
}

export const modelSeams: CommandKind<ModelSeams> = {
	do: 'model.seams',
	apply(project, { model: id, seams, words }) {
		const model = project.models.find((each) => each.id === id);
		if (!model) throw new CommandError('That model is not in this project any more. Nothing was changed.');
		return {
			project: { ...project, models: project.models.map((each) => (each === model ? { ...model, seams } : each)) },
			inverse: { do: 'model.seams', model: id, seams: model.seams ?? null, words } satisfies ModelSeams as ModelSeams,
			words,
		};
	},
	surfaces({ seams }) {
		if (!seams) return [];
		const { id, format } = placeOfNumbers(seams);
		return [{ id, format, sheet: null, start: 'empty' }];
	},
	touched: () => 'nothing',
};
