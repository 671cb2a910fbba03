import type { Kernels } from '@eppu/kernels';

/** A hand that stroked this lately may stroke again, and what it laid is drawn finely meanwhile. */
const LATELY_MS = 700;
/** How long a member waits before it looks again by itself. */
const LOOK_MS = 50;

/** Says through memory that all share whether the hand strokes, or is about to: it moves over a view. */
export interface Hand {
	/** One word: 1 while it strokes. Null where no memory can be shared, and so nobody waits. */
	readonly word: Int32Array<SharedArrayBuffer> | null;
	/** It strokes now. */
	strokes(): void;
	/** It points at a place of a view, or at none: where it moves it may be about to stroke. */
	points(at: { readonly x: number; readonly y: number } | null): void;
}

export function createHand(): Hand {
	const word = globalThis.crossOriginIsolated ? new Int32Array(new SharedArrayBuffer(4)) : null;
	let timer: ReturnType<typeof setTimeout> | undefined;
	let last = '';
	const hand: Hand = {
		word,
		points(at) {
			// Told again where it rests, as a view changes below it, it does not move.
			const place = at ? `${at.x} ${at.y}` : last;
			if (place !== last) hand.strokes();
			last = place;
		},
		strokes() {
			if (!word) return;
			Atomics.store(word, 0, 1);
			clearTimeout(timer);
			timer = setTimeout(() => {
				Atomics.store(word, 0, 0);
				Atomics.notify(word, 0);
			}, LATELY_MS);
		},
	};
	return hand;
}

/**
 * The same kernels, each call of which waits while the hand strokes and `patient` holds: so work that can wait leaves the
 * processor to the hand wherever it stands. Only for a thread that may stand still.
 */
export function patientKernels({ heap, run }: Kernels, word: Int32Array, patient: () => boolean): Kernels {
	const waits =
		(call: (...given: number[]) => unknown) =>
		(...given: number[]): unknown => {
			while (Atomics.load(word, 0) === 1 && patient()) Atomics.wait(word, 0, 1, LOOK_MS);
			return call(...given);
		};
	const calls = Object.entries(run).map(([name, call]) => [
		name,
		typeof call === 'function' ? waits(call as never) : call,
	]);
	return { heap, run: Object.fromEntries(calls) as Kernels['run'] };
}
