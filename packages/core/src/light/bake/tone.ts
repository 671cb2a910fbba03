import { newStep, type RecipeStep, recipeField, type StepName, sourceKinds, stepKindOf } from '../../recipe/index.ts';
import { byTag, one } from '../../shape/index.ts';
import { type BakeBase, type BakeKind, bakeShape, deepBytes } from './kind.ts';

/** What of a model's shape can be kept as a tone: sources of recipes that read nothing else. */
export const bakedSteps = [
	'occlusion',
	'curvature',
	'thickness',
	'height',
	'facing',
	'pieces',
] as const satisfies StepName[];
export type BakedStep = (typeof bakedSteps)[number];

/** A source of recipes, kept. */
export interface ToneBake extends BakeBase {
	readonly bake: 'tone';
	readonly step: Extract<RecipeStep, { readonly step: BakedStep }>;
}

/** A bake of a source as it is first made. */
export const toneBake = (id: string, name: string, step: BakedStep, change: object = {}): ToneBake => ({
	id,
	name,
	bake: 'tone',
	step: { ...newStep(step, 'source'), mix: 'replace', ...change } as ToneBake['step'],
});

export const tone: BakeKind<ToneBake> = {
	bake: 'tone',
	shape: bakeShape({
		bake: one('tone'),
		step: byTag(
			'step',
			sourceKinds.filter(({ step }) => (bakedSteps as readonly string[]).includes(step)).map(({ shape }) => shape),
		),
	}),
	format: 'deep',
	dear: ({ step }) => Boolean(stepKindOf(step).dear),
	words: ({ step }) => stepKindOf(step).words,
	models: ({ step }) => stepKindOf(step).models?.(step) ?? false,
	make: (bake, ground) => deepBytes(tone.fields(bake, ground), ground),
	fields: ({ step }, ground) => (ground.surface ? [recipeField([step], ground)] : null),
};
