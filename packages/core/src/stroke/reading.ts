import type { Point } from './path.ts';

/** What a rule listens to: the pen's pressure, how far it leans, how fast it goes. */
export type Reading = 'pressure' | 'tilt' | 'speed';

/** A reading of 1 for speed, in px or texels a millisecond. */
const FAST = 3;

export function readingOf(point: Point, by: Reading): number {
	if (by === 'pressure') return point.pressure;
	if (by === 'tilt') return point.tilt;
	return Math.min(1, point.speed / FAST);
}
