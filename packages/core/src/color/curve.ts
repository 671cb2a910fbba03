/**
 * The height of a curve through evenly spaced knots at t 0..1: cubic, never outside its two knots where they rise or
 * fall. Source: F. N. Fritsch, R. E. Carlson, "Monotone Piecewise Cubic Interpolation" (1980), slopes by harmonic mean.
 */
export function curveAt(knots: readonly number[], t: number): number {
	const last = knots.length - 1;
	if (last < 1) return knots[0] ?? t;
	const place = Math.min(1, Math.max(0, t)) * last;
	const i = Math.min(last - 1, Math.floor(place));
	const rise = (k: number): number => (knots[k + 1] as number) - (knots[k] as number);
	const slope = (k: number): number => {
		if (k === 0) return rise(0);
		if (k === last) return rise(last - 1);
		const [a, b] = [rise(k - 1), rise(k)];
		return a * b <= 0 ? 0 : (2 * a * b) / (a + b);
	};
	const s = place - i;
	const [y0, y1] = [knots[i] as number, knots[i + 1] as number];
	const [m0, m1] = [slope(i), slope(i + 1)];
	return (
		y0 * (1 + 2 * s) * (1 - s) * (1 - s) + m0 * s * (1 - s) * (1 - s) + y1 * s * s * (3 - 2 * s) + m1 * s * s * (s - 1)
	);
}
