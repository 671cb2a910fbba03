import { newStep, type Recipe, type RecipeStep, type StepName } from './recipe.ts';

type Plain = RecipeStep extends infer S ? (S extends RecipeStep ? Omit<S, 'id' | 'on'> : never) : never;

/** A step as it is first added, without its id. */
const usual = <K extends StepName>(step: K): Plain & { readonly step: K } => {
	const { id: _id, on: _on, ...plain } = newStep(step, '');
	return plain as Plain & { readonly step: K };
};

/** A recipe to begin with. */
export interface RecipePreset {
	readonly name: string;
	readonly hint: string;
	readonly steps: Recipe;
}

const list = (...steps: readonly (Plain & { readonly step: StepName })[]): Recipe =>
	steps.map((step, i) => ({ id: `s${i + 1}`, on: true, ...step }) as RecipeStep);

/** The recipes that ship. Edges, heights, facing and hollows come from the mesh itself. */
export const presets: readonly RecipePreset[] = [
	{
		name: 'Edge wear',
		hint: 'Paint rubbed off where the model’s edges stand out',
		steps: list(
			{ ...usual('edges'), mix: 'replace', width: 9, soft: 0.7 },
			{ ...usual('clouds'), mix: 'overlay', size: 9, contrast: 0.45, seed: 4 },
			{ ...usual('strokes'), mix: 'multiply', amount: 0.5, size: 3, length: 4, seed: 2 },
			{ step: 'levels', black: 0.3, white: 0.5, gamma: 1 },
		),
	},
	{
		name: 'Ground dirt',
		hint: 'Creeps up from what the model stands on',
		steps: list(
			{ ...usual('height'), mix: 'replace', from: 0.4, to: 0 },
			{ ...usual('clouds'), mix: 'overlay', size: 14, contrast: 0.4, seed: 7 },
			{ ...usual('speckle'), mix: 'screen', dense: 0.35, size: 2.2, seed: 5 },
			{ ...usual('height'), mix: 'multiply', from: 0.55, to: 0.1 },
			{ step: 'levels', black: 0.15, white: 0.6, gamma: 1.1 },
		),
	},
	{
		name: 'Hand dirt',
		hint: 'Soft smudges where hands go, broken by strokes',
		steps: list(
			{ ...usual('clouds'), mix: 'replace', size: 26, contrast: 0.5, seed: 3 },
			{ ...usual('strokes'), mix: 'multiply', amount: 0.6, size: 5, length: 2, turn: 35, seed: 6 },
			{ step: 'blur', radius: 3 },
			{ step: 'levels', black: 0.25, white: 0.65, gamma: 1 },
		),
	},
	{
		name: 'Drips',
		hint: 'Runs down the model from above',
		steps: list(
			{ ...usual('drips'), mix: 'replace', size: 4.5, length: 4, dense: 0.55 },
			{ step: 'warp', by: 4, size: 18, seed: 2 },
			{ ...usual('clouds'), mix: 'multiply', amount: 0.5, size: 12, seed: 8 },
		),
	},
	{
		name: 'Dust from above',
		hint: 'Lies on what looks up',
		steps: list(
			{ ...usual('facing'), mix: 'replace', spread: 75 },
			{ ...usual('clouds'), mix: 'multiply', amount: 0.7, size: 10, contrast: 0.3, seed: 9 },
			{ ...usual('speckle'), mix: 'multiply', amount: 0.35, size: 1.4, soft: 0.8, seed: 3 },
			{ step: 'levels', black: 0.05, white: 0.55, gamma: 1 },
		),
	},
	{
		name: 'Hollow dirt',
		hint: 'Gathers where the model hides itself from the sky',
		steps: list(
			{ ...usual('occlusion'), mix: 'replace', reach: 18 },
			{ ...usual('clouds'), mix: 'overlay', size: 10, contrast: 0.35, seed: 6 },
			{ step: 'levels', black: 0.18, white: 0.62, gamma: 1.1 },
		),
	},
	{
		name: 'Sun-bleached',
		hint: 'Faded where the sun falls, in soft patches',
		steps: list(
			{ ...usual('facing'), mix: 'replace', axis: 'any', turn: -35, rise: 50, spread: 95 },
			{ ...usual('occlusion'), mix: 'subtract', amount: 0.8, reach: 30, rays: 24 },
			{ ...usual('clouds'), mix: 'multiply', amount: 0.6, size: 18, contrast: 0.3, seed: 5 },
			{ step: 'levels', black: 0.12, white: 0.7, gamma: 1 },
		),
	},
	{
		name: 'Rubbed corners',
		hint: 'Bare where corners and rims are touched, wider where they are sharper',
		steps: list(
			{ ...usual('curvature'), mix: 'replace', width: 3.5, strength: 1.4 },
			{ ...usual('clouds'), mix: 'subtract', amount: 0.55, size: 5, contrast: 0.4, seed: 11 },
			{ step: 'levels', black: 0.14, white: 0.34, gamma: 1 },
			{ step: 'blur', radius: 1 },
		),
	},
];
