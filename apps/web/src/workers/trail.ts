/** The steps of the history that outlive the tab: those of the open project that lie in the browser's store. */
import type { Engine, Step } from '@eppu/core/engine';
import { tileBytes } from '@eppu/core/surface';
import { journal } from '../studio/journal.ts';
import type { KeptSteps } from '../studio/keeping.ts';
import { assetsOfSteps, bringFiles } from './models.ts';

/** So many steps of a project go with it. */
export const MOST_STEPS = 200;
/** Bytes of texels that are packed at once; a step that is larger ends what goes along. */
const MOST_RAW = 96 * 1024 * 1024;

const numbers = new WeakMap<Step, number>();
let stored = new Set<number>();
let next = 1;

const rawBytes = (step: Step): number =>
	step.records.reduce((sum, { surface, tiles }) => sum + tiles.size * tileBytes(surface.format), 0);

/** Nothing of the project that is opened is in the store. */
export function forgetSteps(): void {
	stored = new Set();
}

/** Takes back the steps that lead to the save that a project was opened at, where this browser has them. */
export async function recallSteps(engine: Engine, project: string, save: string | null): Promise<void> {
	forgetSteps();
	try {
		const trail = save ? await journal.trail(project) : undefined;
		if (!trail || trail.save !== save) return;
		const found = new Map((await journal.steps(project)).map((each) => [each.id, each]));
		const ids = trail.steps.map(([id]) => id);
		// What lies before a step that is missing is out of reach.
		const from = ids.findLastIndex((id) => !found.has(id)) + 1;
		const list = ids.slice(from).flatMap((id) => found.get(id) ?? []);
		await bringFiles(engine, project, assetsOfSteps(list.map(({ step }) => step)));
		const steps = engine.recallSteps(list.map(({ step }) => step));
		const kept = list.slice(list.length - steps.length);
		for (const [i, step] of steps.entries()) numbers.set(step, kept[i]?.id ?? 0);
		stored = new Set(kept.map(({ id }) => id));
		next = Math.max(next, ...ids.map((id) => id + 1));
	} catch (error) {
		console.warn('The steps of the last visit could not be read:', error);
	}
}

/** The steps that lead to what is kept now. */
export function stepsNow(engine: Engine): KeptSteps {
	const done = engine.history.done.slice(-MOST_STEPS);
	const last = done.findLastIndex((step) => stored.has(numbers.get(step) ?? -1));
	const fresh = done.slice(last + 1);
	let room = MOST_RAW;
	const tooMuch = (step: Step): boolean => {
		room -= rawBytes(step);
		return room < 0;
	};
	const first = fresh.findLastIndex(tooMuch) + 1;
	const added = fresh.slice(first).map((step) => {
		const id = next++;
		numbers.set(step, id);
		return [id, engine.packStep(step)] as const;
	});
	// A step that is left out cuts off those before it.
	const here =
		first > 0
			? []
			: done.slice(0, last + 1).flatMap((step) => [numbers.get(step) ?? -1].filter((id) => stored.has(id)));
	stored = new Set([...here, ...added.map(([id]) => id)]);
	return { here, added };
}
