type ViewName = 'model' | 'sheet';

/** The view that the hand strokes on; null while it does not. */
let view: ViewName | null = null;

export const setStrokesOn = (next: ViewName | null): void => {
	view = next;
};

/** How often a view is drawn by the processor while the hand strokes on the other one. */
const BESIDE_MS = 180;

/** The frame that a view was drawn in. */
let drawnIn = 0;

/**
 * Calls `draw` at the next frame; where the processor draws while the hand strokes, one view a frame, and the other view
 * than the hand's now and then. What is returned stops it.
 */
export function frameFor(name: ViewName, software: boolean, drawnAt: number, draw: (now: number) => void): () => void {
	let waiting = 0;
	const frame = (now: number): void => {
		const other = view !== name;
		if (software && view !== null && ((other && now - drawnAt < BESIDE_MS) || drawnIn === now))
			waiting = requestAnimationFrame(frame);
		else {
			drawnIn = now;
			draw(now);
		}
	};
	waiting = requestAnimationFrame(frame);
	return () => cancelAnimationFrame(waiting);
}
