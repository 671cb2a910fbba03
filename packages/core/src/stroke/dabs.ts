import type { Dab } from '../target/index.ts';
import type { Sample } from './path.ts';
import { type Tip, underPressure } from './tip.ts';

/** Sets dabs along a line at the tip's spacing; what is left of a step is carried over to the next points. */
export interface Dabs {
	along(points: readonly Sample[]): Dab[];
}

const SMALLEST_STEP = 0.5;

const dabAt = (tip: Tip, { x, y, pressure }: Sample): Dab => ({
	x,
	y,
	radius: Math.max(0.5, (tip.size / 2) * underPressure(tip.pressureSize, pressure)),
	edge: tip.edge,
	strength: tip.strength * underPressure(tip.pressureStrength, pressure),
});

export function createDabs(tip: Tip): Dabs {
	let last: Sample | null = null;
	let untilNext = 0;
	return {
		along(points) {
			const out: Dab[] = [];
			for (const point of points) {
				if (!last) {
					const dab = dabAt(tip, point);
					out.push(dab);
					untilNext = Math.max(SMALLEST_STEP, tip.spacing * 2 * dab.radius);
					last = point;
					continue;
				}
				const from: Sample = last;
				const dx = point.x - from.x;
				const dy = point.y - from.y;
				const length = Math.sqrt(dx * dx + dy * dy);
				let gone = 0;
				while (length - gone >= untilNext) {
					gone += untilNext;
					const t = gone / length;
					const dab = dabAt(tip, {
						x: from.x + dx * t,
						y: from.y + dy * t,
						pressure: from.pressure + (point.pressure - from.pressure) * t,
					});
					out.push(dab);
					untilNext = Math.max(SMALLEST_STEP, tip.spacing * 2 * dab.radius);
				}
				untilNext -= length - gone;
				last = point;
			}
			return out;
		},
	};
}
