export { mixed, recipeField, recipeReach, toneOfField } from './evaluate.ts';
export type { Ground, OverSeams, SurfaceGround } from './ground.ts';
export { newStep, presets, type RecipePreset } from './presets.ts';
export {
	isDear,
	isShaper,
	type Mixing,
	mixings,
	type Recipe,
	type RecipeStep,
	type StepName,
	type TapOf,
	tapsOf,
} from './recipe.ts';
