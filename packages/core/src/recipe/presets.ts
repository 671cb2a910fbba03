import type { Recipe, RecipeStep, StepName } from './recipe.ts';

const chance = { space: 'model', size: 8, seed: 1 } as const;
const source = { mix: 'multiply', amount: 1 } as const;

type Plain = RecipeStep extends infer S ? (S extends RecipeStep ? Omit<S, 'id' | 'on'> : never) : never;

const usual: { readonly [K in StepName]: Plain & { readonly step: K } } = {
	tone: { step: 'tone', value: 0.5, ...source },
	painted: { step: 'painted', ...source },
	tap: { step: 'tap', layer: '', of: 'tone', ...source },
	tones: { step: 'tones', layer: '', low: 0.5, high: 1, soft: 0.15, ...source },
	noise: { step: 'noise', contrast: 0.3, ...chance, ...source },
	clouds: { step: 'clouds', contrast: 0.3, rough: 0.5, ...chance, size: 20, ...source },
	speckle: { step: 'speckle', dense: 0.5, soft: 0.3, ...chance, size: 3, ...source },
	scratches: { step: 'scratches', dense: 0.4, thick: 0.5, turn: 0, spread: 40, ...chance, size: 16, ...source },
	drips: { step: 'drips', dense: 0.5, length: 3, ...chance, size: 5, ...source },
	streaks: { step: 'streaks', axis: 'y', stretch: 8, contrast: 0.4, ...chance, size: 6, ...source },
	strokes: { step: 'strokes', turn: 0, length: 3, ...chance, size: 5, ...source },
	pieces: { step: 'pieces', by: 'island', low: 0, high: 1, seed: 1, ...source },
	height: { step: 'height', axis: 'y', from: 0.5, to: 0, ...source },
	facing: { step: 'facing', axis: 'y', way: 1, spread: 60, ...source },
	edges: { step: 'edges', of: 'edges', angle: 30, width: 10, soft: 0.6, ...source },
	picture: { step: 'picture', picture: 'cracks', scale: 256, turn: 0, ...source },
	levels: { step: 'levels', black: 0.3, white: 0.7, gamma: 1 },
	invert: { step: 'invert' },
	blur: { step: 'blur', radius: 4 },
	smudge: { step: 'smudge', length: 20, turn: 90 },
	warp: { step: 'warp', by: 20, size: 24, seed: 1 },
	grow: { step: 'grow', by: 2 },
};

/** A step as it is first added; `id` is the caller's. */
export const newStep = (step: StepName, id: string): RecipeStep => ({ id, on: true, ...usual[step] }) as RecipeStep;

/** A recipe to begin with. */
export interface RecipePreset {
	readonly name: string;
	readonly hint: string;
	readonly steps: Recipe;
}

const list = (...steps: readonly (Plain & { readonly step: StepName })[]): Recipe =>
	steps.map((step, i) => ({ id: `s${i + 1}`, on: true, ...step }) as RecipeStep);

/** The recipes that ship. They ask nothing of bakes: edges, heights and facing come from the mesh itself. */
export const presets: readonly RecipePreset[] = [
	{
		name: 'Edge wear',
		hint: 'Paint rubbed off where the model’s edges stand out',
		steps: list(
			{ ...usual.edges, mix: 'replace', width: 9, soft: 0.7 },
			{ ...usual.clouds, mix: 'overlay', size: 9, contrast: 0.45, seed: 4 },
			{ ...usual.strokes, mix: 'multiply', amount: 0.5, size: 3, length: 4, seed: 2 },
			{ step: 'levels', black: 0.3, white: 0.5, gamma: 1 },
		),
	},
	{
		name: 'Ground dirt',
		hint: 'Creeps up from what the model stands on',
		steps: list(
			{ ...usual.height, mix: 'replace', from: 0.4, to: 0 },
			{ ...usual.clouds, mix: 'overlay', size: 14, contrast: 0.4, seed: 7 },
			{ ...usual.speckle, mix: 'screen', dense: 0.35, size: 2.2, seed: 5 },
			{ ...usual.height, mix: 'multiply', from: 0.55, to: 0.1 },
			{ step: 'levels', black: 0.15, white: 0.6, gamma: 1.1 },
		),
	},
	{
		name: 'Hand dirt',
		hint: 'Soft smudges where hands go, broken by strokes',
		steps: list(
			{ ...usual.clouds, mix: 'replace', size: 26, contrast: 0.5, seed: 3 },
			{ ...usual.strokes, mix: 'multiply', amount: 0.6, size: 5, length: 2, turn: 35, seed: 6 },
			{ step: 'blur', radius: 3 },
			{ step: 'levels', black: 0.25, white: 0.65, gamma: 1 },
		),
	},
	{
		name: 'Drips',
		hint: 'Runs down the model from above',
		steps: list(
			{ ...usual.drips, mix: 'replace', size: 4.5, length: 4, dense: 0.55 },
			{ step: 'warp', by: 4, size: 18, seed: 2 },
			{ ...usual.clouds, mix: 'multiply', amount: 0.5, size: 12, seed: 8 },
		),
	},
	{
		name: 'Dust from above',
		hint: 'Lies on what looks up',
		steps: list(
			{ ...usual.facing, mix: 'replace', spread: 75 },
			{ ...usual.clouds, mix: 'multiply', amount: 0.7, size: 10, contrast: 0.3, seed: 9 },
			{ ...usual.speckle, mix: 'multiply', amount: 0.35, size: 1.4, soft: 0.8, seed: 3 },
			{ step: 'levels', black: 0.05, white: 0.55, gamma: 1 },
		),
	},
];
