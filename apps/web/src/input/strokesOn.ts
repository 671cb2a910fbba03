type ViewName = 'model' | 'sheet';

/** The view that the hand strokes on; null while it does not. */
let view: ViewName | null = null;

export const setStrokesOn = (next: ViewName | null): void => {
	view = next;
};

/** How often a view is drawn by the processor while the hand strokes on the other one. */
const BESIDE_MS = 180;

/**
 * Calls `draw` at the next frame; where the processor draws and the hand strokes on the other view, not before that has
 * had its frames. What is returned stops it.
 */
export function frameFor(name: ViewName, software: boolean, drawnAt: number, draw: (now: number) => void): () => void {
	let waiting = 0;
	const frame = (now: number): void => {
		if (software && view !== null && view !== name && now - drawnAt < BESIDE_MS) waiting = requestAnimationFrame(frame);
		else draw(now);
	};
	waiting = requestAnimationFrame(frame);
	return () => cancelAnimationFrame(waiting);
}
