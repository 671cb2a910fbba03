import type { Ground } from './ground.ts';
import { isShaper, type Mixing, type Recipe, type RecipeStep } from './recipe.ts';
import { shapedField, shaperReach } from './shapers.ts';
import { sourceField } from './sources.ts';

const clamp = (v: number): number => (v < 0 ? 0 : v > 1 ? 1 : v);

/** Two tones, 0..1, joined: `a` is what was there. */
export function mixed(how: Mixing, a: number, b: number): number {
	switch (how) {
		case 'replace':
			return b;
		case 'multiply':
			return a * b;
		case 'divide':
			return clamp(b > 0 ? a / b : a > 0 ? 1 : 0);
		case 'screen':
			return a + b - a * b;
		case 'overlay':
			return a <= 0.5 ? 2 * a * b : 1 - 2 * (1 - a) * (1 - b);
		case 'max':
			return a > b ? a : b;
		case 'min':
			return a < b ? a : b;
		case 'add':
			return clamp(a + b);
		case 'subtract':
			return clamp(a - b);
	}
}

/** Texels beside a region that its recipe reads. */
export const recipeReach = (recipe: Recipe): number =>
	recipe.reduce((sum, step) => sum + (step.on && isShaper(step) ? shaperReach(step) : 0), 0);

/** What the steps up to `count` (all) make of a ground, 0..1 a cell. A source whose layer or model is missing does nothing. */
export function recipeField(
	recipe: Recipe,
	ground: Ground,
	count = recipe.length,
	start?: { readonly from: number; readonly field: Float32Array },
): Float32Array {
	let field: Float32Array = start ? start.field.slice() : new Float32Array(ground.width * ground.height).fill(1);
	for (let n = start?.from ?? 0; n < count; n++) {
		const step = recipe[n] as RecipeStep;
		if (!step.on) continue;
		if (isShaper(step)) {
			field = shapedField(step, field, ground);
			continue;
		}
		const source = sourceField(step, ground);
		if (!source) continue;
		const { mix, amount } = step;
		for (let i = 0; i < field.length; i++) {
			const a = field[i] as number;
			field[i] = a + (mixed(mix, a, source[i] as number) - a) * amount;
		}
	}
	return field;
}

/** A field of 0..1 as A8. */
export const toneOfField = (field: Float32Array): Uint8Array =>
	Uint8Array.from(field, (v) => Math.round(255 * clamp(v)));
