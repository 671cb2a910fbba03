import type { Ground } from './ground.ts';
import { isShaper, type Mixing, type Recipe, type RecipeStep } from './recipe.ts';
import { shapedField, shaperReach } from './shapers.ts';
import { sourceField } from './sources.ts';

const clamp = (v: number): number => (v < 0 ? 0 : v > 1 ? 1 : v);

type Join = (a: number, b: number) => number;
const joins: Readonly<Record<Mixing, Join>> = {
	replace: (_, b) => b,
	multiply: (a, b) => a * b,
	divide: (a, b) => (b > 0 ? clamp(a / b) : a > 0 ? 1 : 0),
	screen: (a, b) => a + b - a * b,
	overlay: (a, b) => (a <= 0.5 ? 2 * a * b : 1 - 2 * (1 - a) * (1 - b)),
	max: (a, b) => (a > b ? a : b),
	min: (a, b) => (a < b ? a : b),
	add: (a, b) => clamp(a + b),
	subtract: (a, b) => clamp(a - b),
};

/** Two tones, 0..1, joined: `a` is what was there. */
export const mixed = (how: Mixing, a: number, b: number): number => joins[how](a, b);

/** What joins nothing to nothing, whatever the source says. */
const keepsNothing: readonly Mixing[] = ['multiply', 'divide', 'overlay', 'min', 'subtract'];

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
		// Where nothing is and nothing can come of it, the source need not be asked.
		const kept = keepsNothing.includes(step.mix) ? field : null;
		if (kept?.every((v) => v === 0)) continue;
		const source = sourceField(step, ground, kept);
		if (!source) continue;
		const { amount } = step;
		if (step.mix === 'replace' && amount === 1) {
			field = source;
			continue;
		}
		const join = joins[step.mix];
		for (let i = 0; i < field.length; i++) {
			const a = field[i] as number;
			field[i] = a + (join(a, source[i] as number) - a) * amount;
		}
	}
	return field;
}

/** A field of 0..1 as A8. */
export function toneOfField(field: Float32Array): Uint8Array {
	const out = new Uint8Array(field.length);
	for (let i = 0; i < out.length; i++) out[i] = Math.round(255 * clamp(field[i] as number));
	return out;
}
