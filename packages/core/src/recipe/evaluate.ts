import type { Ground } from './ground.ts';
import type { Recipe, RecipeStep, SourceStep } from './recipe.ts';
import { clamp } from './spread.ts';
import { stepKindOf } from './step/index.ts';
import type { Mixing } from './step/kind.ts';

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
	recipe.reduce((sum, step) => {
		const kind = stepKindOf(step);
		return sum + (step.on && kind.takes === 'shaper' ? kind.reach(step) : 0);
	}, 0);

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
		const kind = stepKindOf(step);
		if (kind.takes === 'shaper') {
			field = kind.shaped(step, field, ground);
			continue;
		}
		const { mix, amount } = step as SourceStep;
		// Where nothing is and nothing can come of it, the source need not be asked.
		const kept = keepsNothing.includes(mix) ? field : null;
		if (kept?.every((v) => v === 0)) continue;
		const source = kind.field(step, ground, kept);
		if (!source) continue;
		if (mix === 'replace' && amount === 1) {
			field = source;
			continue;
		}
		const join = joins[mix];
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
