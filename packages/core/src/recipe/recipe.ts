import { list, type Shape } from '../shape/index.ts';
import type { TapOf } from './ground.ts';
import { type Shaper, type Source, stepKindOf, stepShape } from './step/index.ts';
import type { Mixing } from './step/kind.ts';

interface StepBase {
	readonly id: string;
	/** Switched off, it does nothing. */
	readonly on: boolean;
}
/** Sources say how they join; `amount` 0..1 is how much of the result counts. */
export type SourceStep = StepBase & Source & { readonly mix: Mixing; readonly amount: number };
export type RecipeStep = SourceStep | (StepBase & Shaper);
export type StepName = RecipeStep['step'];

/** Steps that compute a mask, in their order; the first finds white. */
export type Recipe = readonly RecipeStep[];

export const recipeShape = (): Shape => list(stepShape(), 64);

export const isShaper = (step: RecipeStep): step is StepBase & Shaper => stepKindOf(step).takes === 'shaper';

/** Layers that a recipe reads. */
export const tapsOf = (recipe: Recipe): readonly { readonly layer: string; readonly of: TapOf }[] =>
	recipe.flatMap((step) => {
		const kind = stepKindOf(step);
		return step.on && kind.takes === 'source' ? (kind.taps?.(step) ?? []) : [];
	});

/** Bakes that a recipe reads, each once. */
export const bakesRead = (recipe: Recipe): readonly string[] => [
	...new Set(recipe.flatMap((step) => (step.on && 'bake' in step && step.bake ? [step.bake] : []))),
];

/** Whether a step depends on all models of the project, not only on the sheet's own. */
export const readsModels = (recipe: Recipe): boolean =>
	recipe.some((step) => step.on && stepKindOf(step).models?.(step));

/** Whether a step depends on what the model's parts are called. */
export const readsNames = (recipe: Recipe): boolean => recipe.some((step) => step.on && stepKindOf(step).names);

/** Whether a recipe takes its time: steps made of chance cost a hundred times what others do. */
export const isDear = (recipe: Recipe): boolean => recipe.some((step) => step.on && stepKindOf(step).dear);

/** A step as it is first added; `id` is the caller's. */
export function newStep(step: StepName, id: string): RecipeStep {
	const kind = stepKindOf({ step });
	const joins = kind.takes === 'source' ? { mix: kind.joins ?? 'multiply', amount: 1 } : {};
	return { id, on: true, ...kind.usual, ...joins } as RecipeStep;
}
