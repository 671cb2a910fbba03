import { nextCorner } from '../mesh/index.ts';
import type { Chart } from './chart.ts';
import { measureFlat } from './flatten.ts';

/** A rung of a ribbon: the vertices that it joins across. */
type Rung = readonly [left: number, right: number];

/** The rungs of a chart whose faces stand one after the other, as a ribbon's do, from one end to the other; null else. */
function rungsOf({ corners, rim }: Chart): readonly Rung[] | null {
	const faces = corners.length / 3;
	if (faces < 4) return null;
	const open = new Set(rim);
	/** Corners by the edge of the chart that begins there. */
	const byEdge = new Map<string, number>();
	corners.forEach((v, corner) => {
		byEdge.set(`${v} ${corners[nextCorner(corner)]}`, corner);
	});
	const across = (corner: number): number => byEdge.get(`${corners[nextCorner(corner)]} ${corners[corner]}`) as number;
	const joined = (face: number): number[] => [0, 1, 2].map((k) => face * 3 + k).filter((corner) => !open.has(corner));
	const ends: number[] = [];
	for (let face = 0; face < faces; face++) {
		const count = joined(face).length;
		if (count === 3 || count === 0) return null;
		if (count === 1) ends.push(face);
	}
	const [first] = ends;
	if (first === undefined || ends.length !== 2) return null;
	const rungs: Rung[] = [];
	let seen = 1;
	for (let edge = joined(first)[0]; edge !== undefined; seen++) {
		// Seen across an edge its end is to the left, its beginning to the right.
		rungs.push([corners[nextCorner(edge)] as number, corners[edge] as number]);
		const from = across(edge);
		edge = joined(Math.floor(from / 3)).find((corner) => corner !== from);
	}
	if (seen !== faces) return null;
	/** Sides go on in turn: the vertex at an end stands on the side that does not go on next. */
	const endOf = (face: number, [left, right]: Rung, next: Rung | undefined): Rung => {
		const free = [0, 1, 2].map((k) => corners[face * 3 + k] as number).find((v) => v !== left && v !== right) as number;
		return next && next[0] !== left ? [left, free] : [free, right];
	};
	return [
		endOf(first, rungs[0] as Rung, rungs[1]),
		...rungs,
		endOf(ends[1] as number, rungs.at(-1) as Rung, rungs.at(-2)),
	];
}

/**
 * A ribbon laid straight: as long as the mean of its sides, as wide as its area asks for. Null where the chart is no
 * ribbon, or would be stretched by more than `most` (angles, mean by area).
 */
export function straightened(chart: Chart, most: number): Float64Array | null {
	const { points, corners } = chart;
	const far = (a: number, b: number): number =>
		Math.hypot(...[0, 1, 2].map((k) => (points[a * 3 + k] as number) - (points[b * 3 + k] as number)));
	const rungs = rungsOf(chart);
	if (!rungs) return null;
	/** How far along each vertex stands: where its shortest rung does. */
	const places = new Map<number, { readonly at: number; readonly rung: number; readonly left: boolean }>();
	let long = 0;
	const note = (v: number, at: number, rung: number, left: boolean): void => {
		if (!places.has(v) || rung < (places.get(v)?.rung as number)) places.set(v, { at, rung, left });
	};
	rungs.forEach(([left, right], i) => {
		const before = rungs[i - 1];
		if (before) long += (far(before[0], left) + far(before[1], right)) / 2;
		note(left, long, far(left, right), true);
		note(right, long, far(left, right), false);
	});
	let area = 0;
	for (let face = 0; face * 3 < corners.length; face++) {
		const [p, q, r] = [0, 1, 2].map((k) => corners[face * 3 + k] as number) as [number, number, number];
		const [x, y, z] = [far(p, q), far(q, r), far(r, p)];
		const s = (x + y + z) / 2;
		area += Math.sqrt(Math.max(0, s * (s - x) * (s - y) * (s - z)));
	}
	const out = new Float64Array((points.length / 3) * 2);
	const low = Math.min(...[...places.values()].map(({ at }) => at));
	const wide = area / (long - low);
	for (const [v, { at, left }] of places) out.set([at, left ? wide : 0], v * 2);
	const { flips, angleStretch } = measureFlat(chart, out);
	return flips === 0 && angleStretch <= most ? out : null;
}
