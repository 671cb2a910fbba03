import type { Ground } from './ground.ts';
import type { Field } from './planes.ts';
import type { Recipe, RecipeStep, SourceStep } from './recipe.ts';
import { stepKindOf } from './step/index.ts';
import { type Mixing, mixings } from './step/kind.ts';

/** What joins nothing to nothing, whatever the source says. */
const keepsNothing: readonly Mixing[] = ['multiply', 'divide', 'overlay', 'min', 'subtract'];

/** Texels beside a region that its recipe reads. */
export const recipeReach = (recipe: Recipe): number =>
	recipe.reduce((sum, step) => {
		const kind = stepKindOf(step);
		return sum + (step.on && kind.takes === 'shaper' ? kind.reach(step) : 0);
	}, 0);

/**
 * What the steps up to `count` (all) make of a ground, 0..1 a cell: white at first, or `start`, what the steps before its
 * `from` made. A source whose layer or model is missing does nothing.
 */
export function recipeField(
	recipe: Recipe,
	ground: Ground,
	count = recipe.length,
	start?: { readonly from: number; readonly field: Float32Array },
): Field {
	const { planes } = ground;
	const cells = ground.width * ground.height;
	const field = planes.take(cells);
	if (start) planes.floats(field, cells).set(start.field);
	else planes.run.fillField(field, cells, 1);
	for (let n = start?.from ?? 0; n < count; n++) {
		const step = recipe[n] as RecipeStep;
		if (step.on) planes.within(() => takeStep(step, ground, field, cells));
	}
	return field;
}

/** What a step makes of a field, in its place. */
function takeStep(step: RecipeStep, ground: Ground, field: Field, cells: number): void {
	const { planes } = ground;
	const kind = stepKindOf(step);
	if (kind.takes === 'shaper') return kind.work(step, field, ground);
	const { mix, amount } = step as SourceStep;
	// Where nothing is and nothing can come of it, the source need not be asked.
	const kept = keepsNothing.includes(mix) ? field : null;
	if (kept !== null && planes.run.wantedCells(0, kept, cells, planes.take(cells)) === 0) return;
	const source = kind.field(step, ground, kept);
	if (source !== null) planes.run.joinFields(mixings.indexOf(mix), field, source, cells, amount);
}

/** A field of 0..1 as A8. */
export function toneOfField({ planes, width, height }: Ground, field: Field): Uint8Array {
	const cells = width * height;
	return planes.within(() => {
		const out = planes.take(cells);
		planes.run.toneBytes(field, cells, out);
		return planes.bytes(out, cells).slice();
	});
}
