/** How a source joins what the steps before it made. */
export const mixings = ['replace', 'multiply', 'divide', 'screen', 'overlay', 'max', 'min', 'add', 'subtract'] as const;
export type Mixing = (typeof mixings)[number];

export type Axis = 'x' | 'y' | 'z';

/** What a tap reads of a layer: its tone where it has any paint, its shape, or its mask. */
export type TapOf = 'tone' | 'shape' | 'mask';

/** Where a pattern of chance lies: on the model's surface, so that it runs on across seams, or on the flat sheet. */
export type NoiseSpace = 'model' | 'sheet';

interface Chance {
	readonly space: NoiseSpace;
	/** Size of its features in hundredths of the model (or of the sheet). */
	readonly size: number;
	readonly seed: number;
}

/** Steps that bring something in. All tones are 0..1, lengths are texels. */
export type Source =
	| { readonly step: 'tone'; readonly value: number }
	/** This mask as it is painted by hand. */
	| { readonly step: 'painted' }
	/** Another layer, live. `low` to `high` are whole, fading over `soft` (a tone range); 0 to 1 with no softness is the tone itself. */
	| { readonly step: 'tap'; readonly layer: string; readonly of: TapOf }
	| {
			readonly step: 'tones';
			readonly layer: string;
			readonly low: number;
			readonly high: number;
			readonly soft: number;
	  }
	| ({ readonly step: 'noise'; readonly contrast: number } & Chance)
	| ({ readonly step: 'clouds'; readonly contrast: number; readonly rough: number } & Chance)
	| ({ readonly step: 'speckle'; readonly dense: number; readonly soft: number } & Chance)
	| ({
			readonly step: 'scratches';
			readonly dense: number;
			readonly thick: number;
			readonly turn: number;
			readonly spread: number;
	  } & Chance)
	| ({ readonly step: 'drips'; readonly dense: number; readonly length: number } & Chance)
	| ({ readonly step: 'streaks'; readonly axis: Axis; readonly stretch: number; readonly contrast: number } & Chance)
	/** Broken up as if laid with single strokes of a brush. */
	| ({ readonly step: 'strokes'; readonly turn: number; readonly length: number } & Chance)
	/** One tone of chance for each island, part or face. */
	| {
			readonly step: 'pieces';
			readonly by: 'island' | 'part' | 'face';
			readonly low: number;
			readonly high: number;
			readonly seed: number;
	  }
	/** From 0 at `from` to 1 at `to`, in shares of the model's height along the axis. */
	| { readonly step: 'height'; readonly axis: Axis; readonly from: number; readonly to: number }
	/** How far the surface looks towards a direction: 1 straight towards it, 0 at `spread` degrees from it. */
	| { readonly step: 'facing'; readonly axis: Axis; readonly way: 1 | -1; readonly spread: number }
	/** A band along the model's edges that are sharper than `angle` degrees: those that stand out, or hollows. */
	| {
			readonly step: 'edges';
			readonly of: 'edges' | 'hollows';
			readonly angle: number;
			readonly width: number;
			readonly soft: number;
	  }
	| { readonly step: 'picture'; readonly picture: string; readonly scale: number; readonly turn: number };

/** Steps that change what there is. Lengths are texels, angles degrees. */
export type Shaper =
	| { readonly step: 'levels'; readonly black: number; readonly white: number; readonly gamma: number }
	| { readonly step: 'invert' }
	| { readonly step: 'blur'; readonly radius: number }
	| { readonly step: 'smudge'; readonly length: number; readonly turn: number }
	/** Pushed along the slope of clouds. */
	| { readonly step: 'warp'; readonly by: number; readonly size: number; readonly seed: number }
	/** Below 0 it shrinks. */
	| { readonly step: 'grow'; readonly by: number };

interface StepBase {
	readonly id: string;
	/** Switched off, it does nothing. */
	readonly on: boolean;
}
/** Sources say how they join; `amount` 0..1 is how much of the result counts. */
export type RecipeStep = StepBase & ((Source & { readonly mix: Mixing; readonly amount: number }) | Shaper);
export type StepName = RecipeStep['step'];

/** Steps that compute a mask, in their order; the first finds white. */
export type Recipe = readonly RecipeStep[];

const shaperNames: readonly StepName[] = ['levels', 'invert', 'blur', 'smudge', 'warp', 'grow'];
export const isShaper = (step: RecipeStep): step is StepBase & Shaper => shaperNames.includes(step.step);

/** Layers that a recipe reads. */
export const tapsOf = (recipe: Recipe): readonly { readonly layer: string; readonly of: TapOf }[] =>
	recipe.flatMap((step) =>
		!step.on
			? []
			: step.step === 'tap'
				? [{ layer: step.layer, of: step.of }]
				: step.step === 'tones'
					? [{ layer: step.layer, of: 'tone' as const }]
					: [],
	);

const ofChance = new Set<StepName>(['noise', 'clouds', 'speckle', 'scratches', 'drips', 'streaks', 'strokes', 'warp']);

/** Whether a recipe takes its time: steps made of chance cost a hundred times what others do. */
export const isDear = (recipe: Recipe): boolean => recipe.some((step) => step.on && ofChance.has(step.step));
