import { curveAt, type Hex, hexOfOklch, oklchOfHex, rgbOfHex } from '../color/index.ts';
import type { Dab, TipPicture } from '../projection/index.ts';
import { chance } from './chance.ts';
import { between, type Point } from './path.ts';
import { readingOf } from './reading.ts';
import type { Ruled, Tip } from './tip.ts';

/** Sets dabs along a line at the tip's spacing; what is left of a step is carried over to the next points. */
export interface Dabs {
	along(points: readonly Point[]): Dab[];
	/** The dab of a tip that follows the stroke where the stroke went nowhere. */
	end(): Dab[];
}

const SMALLEST_STEP = 0.5;
/** Channels of chance. */
const BY = { size: 0, angle: 1, stretch: 2, strength: 3, far: 4, way: 5, hue: 6, lightness: 7, saturation: 8 } as const;
/** Full jitter of a colour: degrees of hue, and shares of lightness and chroma. */
const HUE = 180;
const LIGHTNESS = 0.35;

/** What the pen leaves of a dial at a point: the product of the rules on it. */
export function ruled(tip: Tip, of: Ruled, point: Point): number {
	let share = 1;
	for (const rule of tip.rules)
		if (rule.of === of) share *= 1 - rule.amount + rule.amount * curveAt(rule.curve, readingOf(point, rule.by));
	return share;
}

const packed = (hex: Hex): number => {
	const [r, g, b] = rgbOfHex(hex);
	return r | (g << 8) | (b << 16);
};

/** Dabs of a tip; `seed` rules what chance does, `color` is what jitters where the tip's colour does. */
export function createDabs(tip: Tip, picture: TipPicture | null = null, seed = 0, color: Hex = '#000000'): Dabs {
	let last: Point | null = null;
	let untilNext = 0;
	let count = 0;
	const { jitter } = tip;
	const colored = jitter.hue > 0 || jitter.lightness > 0 || jitter.saturation > 0;
	const base = oklchOfHex(color);

	const swing = (n: number, channel: number): number => 2 * chance(seed, n, channel) - 1;
	const colorOf = (n: number, by: (of: Ruled) => number): number | null => {
		if (!colored) return null;
		return packed(
			hexOfOklch({
				l: Math.min(1, Math.max(0, base.l + LIGHTNESS * jitter.lightness * by('lightness') * swing(n, BY.lightness))),
				c: Math.max(0, base.c * (1 + jitter.saturation * by('saturation') * swing(n, BY.saturation))),
				h: base.h + HUE * jitter.hue * by('hue') * swing(n, BY.hue),
			}),
		);
	};
	const dabAt = (point: Point, direction: number): Dab => {
		const n = count++;
		const by = (of: Ruled): number => ruled(tip, of, point);
		const radius = Math.max(
			0.5,
			(tip.size / 2) * by('size') * (1 - jitter.size * by('chance-size') * chance(seed, n, BY.size)),
		);
		const turn = tip.turn === 'stroke' ? direction : tip.turn === 'pen' ? point.azimuth : 0;
		const scatter = jitter.scatter * by('scatter') * tip.size;
		const far = scatter ? scatter * Math.sqrt(chance(seed, n, BY.far)) : 0;
		const way = scatter ? 2 * Math.PI * chance(seed, n, BY.way) : 0;
		const roundness =
			tip.roundness * by('roundness') * (1 - 0.9 * jitter.stretch * by('chance-stretch') * chance(seed, n, BY.stretch));
		return {
			x: point.x + far * Math.cos(way),
			y: point.y + far * Math.sin(way),
			radius,
			edge: tip.edge * by('edge'),
			strength:
				tip.strength * by('strength') * (1 - jitter.strength * by('chance-strength') * chance(seed, n, BY.strength)),
			roundness: Math.max(0.05, roundness),
			angle:
				(tip.angle * by('angle') * Math.PI) / 180 +
				turn +
				Math.PI * jitter.angle * by('chance-angle') * swing(n, BY.angle),
			picture,
			flip: false,
			color: colorOf(n, by),
		};
	};
	const stepAfter = (point: Point): number =>
		Math.max(
			SMALLEST_STEP,
			tip.spacing * ruled(tip, 'spacing', point) * Math.max(1, tip.size * ruled(tip, 'size', point)),
		);
	return {
		along(points) {
			const out: Dab[] = [];
			for (const point of points) {
				if (!last) {
					last = point;
					// A tip that follows the stroke waits for the stroke to go somewhere.
					if (tip.turn === 'stroke') continue;
					out.push(dabAt(point, 0));
					untilNext = stepAfter(point);
					continue;
				}
				const from: Point = last;
				const dx = point.x - from.x;
				const dy = point.y - from.y;
				const length = Math.sqrt(dx * dx + dy * dy);
				if (length === 0) continue;
				const direction = Math.atan2(dy, dx);
				if (count === 0) {
					out.push(dabAt(from, direction));
					untilNext = stepAfter(from);
				}
				let gone = 0;
				while (length - gone >= untilNext) {
					gone += untilNext;
					const here = between(from, point, gone / length);
					out.push(dabAt(here, direction));
					untilNext = stepAfter(here);
				}
				untilNext -= length - gone;
				last = point;
			}
			return out;
		},
		end: () => (last && count === 0 ? [dabAt(last, 0)] : []),
	};
}

/**
 * Dabs of a placed stamp: from the press it is dragged out to `to`. Once, it is as large and turned as the drag says;
 * several stand in a row from press to release, or in a ring around the press through the release.
 */
export function stampDabs(
	tip: Tip,
	picture: TipPicture | null,
	from: { readonly x: number; readonly y: number },
	to: { readonly x: number; readonly y: number },
	repeat: number,
	way: 'row' | 'ring',
	seed: number,
	color: Hex,
): Dab[] {
	const [dx, dy] = [to.x - from.x, to.y - from.y];
	const length = Math.sqrt(dx * dx + dy * dy);
	const turn = length > 0 ? Math.atan2(dy, dx) : 0;
	const dragged = length >= 3;
	const still = (x: number, y: number): Point => ({ x, y, pressure: 1, tilt: 0, azimuth: 0, speed: 0 });
	const set = (x: number, y: number, size: number, angle: number, n: number): Dab[] =>
		createDabs(
			{ ...tip, size, angle: tip.angle + (angle * 180) / Math.PI, turn: 'fixed', rules: [] },
			picture,
			seed + n,
			color,
		).along([still(x, y)]);
	if (repeat <= 1) return set(from.x, from.y, dragged ? 2 * length : tip.size, dragged ? turn : 0, 0);
	return Array.from({ length: repeat }, (_, i) => {
		if (way === 'row') {
			const t = i / (repeat - 1);
			return set(from.x + dx * t, from.y + dy * t, tip.size, turn, i);
		}
		const angle = turn + (2 * Math.PI * i) / repeat;
		return set(from.x + length * Math.cos(angle), from.y + length * Math.sin(angle), tip.size, angle, i);
	}).flat();
}
