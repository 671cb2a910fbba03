export { recipeField, recipeReach, toneOfField } from './evaluate.ts';
export type { Ground, HiddenOf, OverSeams, SurfaceGround, TapOf } from './ground.ts';
export { eachCell } from './ground.ts';
export { type Field, type Planes, type Triple, withPlanes } from './planes.ts';
export { presets, type RecipePreset } from './presets.ts';
export {
	bakesRead,
	isDear,
	isShaper,
	newStep,
	type Recipe,
	type RecipeStep,
	readsModels,
	readsNames,
	recipeShape,
	type StepName,
	tapsOf,
} from './recipe.ts';
export { directionOf } from './step/facing.ts';
export { shaperKinds, sourceKinds, stepKindOf, stepKinds } from './step/index.ts';
export { type Mixing, mixings, type ShaperKind, type SourceKind } from './step/kind.ts';
