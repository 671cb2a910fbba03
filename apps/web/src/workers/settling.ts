import type { Id } from '@eppu/core/document';
import { createLending, type Engine } from '@eppu/core/engine';
import type { Pool } from '@eppu/core/jobs';
import type { FromStudio } from '../studio/protocol.ts';
import type { Pump } from './pump.ts';

/** Longest slice of computing what follows from the document: strokes are heard between slices. */
const SLICE_MS = 9;
/** A hand that was heard from this lately is stroking: it comes first. */
const HAND_MS = 80;
/** How soon what others may have left is looked for. */
const OTHERS_MS = 3;
const STEP_SIDE = 40;

/** Computes masks by recipe, finishes and fills in slices between messages, and tells how far it is. */
export interface Settling {
	/** Something changed: what is due is computed from now on. */
	wake(): void;
	/** A message came: a hand may be moving. */
	heard(): void;
	/** Leaves what is due as it is, or goes on with it. */
	halt(on: boolean): void;
	/**
	 * Does something that looks at whole pictures once nothing is due, or at once where computing is stopped; what waits
	 * is dropped when another project opens.
	 */
	whole(look: () => void): void;
	/** Pictures of a recipe's steps are wanted after each change, or no more. */
	showSteps(of: { readonly sheet: Id; readonly layer: Id } | null): void;
	/** Another project is open. */
	reset(): void;
}

/** How often it is told how far computing is; while the hand strokes, and so long after, the page draws and is not told. */
const [TELL_MS, STROKED_MS] = [200, 700];

/** Tells how far computing is. */
export function createProgress(tell: (message: FromStudio) => void) {
	let [toldAt, strokedAt] = [Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY];
	return {
		/** Whether it is time to tell it again. */
		get due(): boolean {
			const now = performance.now();
			return now - toldAt > TELL_MS && now - strokedAt > STROKED_MS;
		},
		stroked: () => void (strokedAt = performance.now()),
		say(open: Pick<Engine, 'left' | 'bakeStates'>, all: number, halted: boolean): void {
			toldAt = performance.now();
			tell({ say: 'computing', left: open.left, all, halted, bakes: open.bakeStates() });
		},
	};
}

/** `rested` is called when all is computed. */
export function createSettling(
	tell: (message: FromStudio) => void,
	engineNow: () => Engine | null,
	pump: Pump,
	pool: () => Pool | null,
	rested: () => void,
): Settling {
	const lending = createLending((open) => open === engineNow());
	const turn = new MessageChannel();
	let waiting = false;
	let halted = false;
	let heardAt = 0;
	let dueTiles = 0;
	let steps: { readonly sheet: Id; readonly layer: Id } | null = null;
	let stepsShown = '';
	let waits: (() => void)[] = [];
	const next = (): void => {
		waiting = true;
		turn.port2.postMessage(null);
	};
	const progress = createProgress(tell);
	const say = (open: Engine): void => progress.say(open, dueTiles, halted);
	const tellSteps = (): void => {
		const engine = engineNow();
		if (!steps || !engine || engine.stroking) return;
		const { sheet, layer } = steps;
		const key = `${layer} ${engine.turn}`;
		if (key === stepsShown) return;
		stepsShown = key;
		tell({ say: 'steps', layer, side: STEP_SIDE, tones: engine.recipeSteps(sheet, layer, STEP_SIDE) });
	};
	const wake = (): void => {
		const engine = engineNow();
		if (waiting || !engine) return;
		if (engine.due) {
			dueTiles = Math.max(dueTiles, engine.left);
			return next();
		}
		halted = false;
		if (dueTiles) {
			dueTiles = 0;
			say(engine);
			rested();
		}
		pump.rest();
		const looks = waits;
		waits = [];
		for (const look of looks) look();
		tellSteps();
	};
	turn.port1.onmessage = () => {
		waiting = false;
		const open = engineNow();
		if (!open) return;
		const members = halted ? null : pool();
		if (members) lending.lend(open, members, wake);
		if (open.stroking && performance.now() - heardAt < HAND_MS) {
			// What others made of it is shown meanwhile.
			pump.add(open.refresh(() => true));
			waiting = true;
			setTimeout(next, 60);
			return;
		}
		if (halted && open.left > 0) {
			// What was computed for a question is shown all the same.
			pump.add(open.refresh(() => true));
			return say(open);
		}
		const until = performance.now() + SLICE_MS;
		pump.add(open.refresh(() => performance.now() > until, members !== null));
		if (progress.due) say(open);
		// While others have all that can be made now, or are to have it, there is no hurry.
		if (!members || !open.due) return wake();
		waiting = true;
		setTimeout(next, OTHERS_MS);
	};
	return {
		wake,
		heard() {
			heardAt = performance.now();
			if (engineNow()?.stroking) progress.stroked();
		},
		halt(on) {
			halted = on;
			wake();
		},
		whole(look) {
			if (halted) return look();
			waits.push(look);
			wake();
		},
		showSteps(of) {
			steps = of;
			stepsShown = '';
			tellSteps();
		},
		reset() {
			halted = false;
			dueTiles = 0;
			steps = null;
			stepsShown = '';
			waits = [];
		},
	};
}
