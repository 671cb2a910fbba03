import { nextCorner } from '../mesh/index.ts';
import type { Chart } from './chart.ts';
import { gather, solverOf } from './sparse.ts';

/** A chart laid flat: 2 numbers a vertex of it, units of the model, seen from outside as it is: not mirrored, v upwards. */
export interface Flat {
	readonly places: Float64Array;
	/** Means by area, 1 and up: how much angles, and areas, are off. */
	readonly angleStretch: number;
	readonly areaStretch: number;
	/** Faces that came out turned over. */
	readonly flips: number;
}

/** Each face by itself in its own plane: places of its three corners, and its area. */
function flatFaces({ corners, points }: Chart): { readonly local: Float64Array; readonly areas: Float64Array } {
	const faces = corners.length / 3;
	const [local, areas] = [new Float64Array(faces * 6), new Float64Array(faces)];
	for (let face = 0; face < faces; face++) {
		const [a, b, c] = [0, 1, 2].map((k) => (corners[face * 3 + k] as number) * 3) as [number, number, number];
		const d = (v: number, w: number, k: number): number => (points[v + k] as number) - (points[w + k] as number);
		const [ex, ey, ez] = [d(b, a, 0), d(b, a, 1), d(b, a, 2)];
		const [fx, fy, fz] = [d(c, a, 0), d(c, a, 1), d(c, a, 2)];
		const long = Math.hypot(ex, ey, ez) || 1e-12;
		const along = (ex * fx + ey * fy + ez * fz) / long;
		const high = Math.sqrt(Math.max(0, fx * fx + fy * fy + fz * fz - along * along));
		local.set([0, 0, long, 0, along, high], face * 6);
		areas[face] = (long * high) / 2;
	}
	return { local, areas };
}

/** The cotangents of a chart's angles, each at the corner that it stands at; what is sharper than a needle counts as one. */
function cotangents({ corners }: Chart, local: Float64Array, areas: Float64Array): Float64Array {
	const out = new Float64Array(corners.length);
	for (let corner = 0; corner < corners.length; corner++) {
		const face = Math.floor(corner / 3);
		const at = (c: number): [number, number] => [
			local[face * 6 + (c % 3) * 2] as number,
			local[face * 6 + (c % 3) * 2 + 1] as number,
		];
		const [[px, py], [qx, qy], [rx, ry]] = [at(corner), at(nextCorner(corner)), at(nextCorner(nextCorner(corner)))];
		const dot = (qx - px) * (rx - px) + (qy - py) * (ry - py);
		out[corner] = Math.max(-50, Math.min(50, dot / Math.max(2 * (areas[face] as number), 1e-14)));
	}
	return out;
}

/** How far a flat chart is from the surface: singular values of the map of each face. Source as in report/ground. */
export function measureFlat(chart: Chart, places: Float64Array): Flat {
	const { local, areas } = flatFaces(chart);
	const { corners } = chart;
	let [angle, area, sum, flips] = [0, 0, 0, 0];
	let [flatArea, wholeArea] = [0, 0];
	const values = new Float64Array(areas.length * 2);
	for (let face = 0; face < areas.length; face++) {
		const [j0, j1, j2, j3] = jacobian(corners, local, places, face);
		const [half, diff] = [Math.hypot(j0 + j3, j2 - j1) / 2, Math.hypot(j0 - j3, j2 + j1) / 2];
		values[face * 2] = half + diff;
		values[face * 2 + 1] = half - diff;
		flatArea += (areas[face] as number) * Math.abs(half * half - diff * diff);
		wholeArea += areas[face] as number;
		// A face without area has no side to show.
		if (half < diff && (areas[face] as number) > 1e-12 * wholeArea) flips++;
	}
	const scale = wholeArea > 0 ? flatArea / wholeArea : 1;
	for (let face = 0; face < areas.length; face++) {
		const weight = areas[face] as number;
		const [most, least] = [values[face * 2] as number, Math.abs(values[face * 2 + 1] as number)];
		const [ratio, size] = [most / Math.max(least, most * 1e-3, 1e-12), Math.max((most * least) / scale, 1e-3)];
		angle += (weight * (ratio + 1 / ratio)) / 2;
		area += (weight * (size + 1 / size)) / 2;
		sum += weight;
	}
	return { places, angleStretch: sum ? angle / sum : 1, areaStretch: sum ? area / sum : 1, flips };
}

/** The map of a face from its own plane to where it lies: [xx, xy, yx, yy]. */
function jacobian(
	corners: Uint32Array,
	local: Float64Array,
	places: Float64Array,
	face: number,
): [number, number, number, number] {
	const [a, b, c] = [0, 1, 2].map((k) => (corners[face * 3 + k] as number) * 2) as [number, number, number];
	const [x1, x2, y2] = [local[face * 6 + 2] as number, local[face * 6 + 4] as number, local[face * 6 + 5] as number];
	const [ux, uy] = [
		(places[b] as number) - (places[a] as number),
		(places[b + 1] as number) - (places[a + 1] as number),
	];
	const [vx, vy] = [
		(places[c] as number) - (places[a] as number),
		(places[c + 1] as number) - (places[a + 1] as number),
	];
	const [ix, iy] = [1 / (x1 || 1e-12), 1 / (y2 || 1e-12)];
	const [xx, yx] = [ux * ix, uy * ix];
	return [xx, (vx - xx * x2) * iy, yx, (vy - yx * x2) * iy];
}

/**
 * Least squares conformal maps: two vertices that lie far apart are held, and all others follow so that angles are kept
 * as well as they can be. Source: B. Lévy et al., "Least squares conformal maps" (2002), as Dirichlet energy less area.
 */
function conformal(chart: Chart, cots: Float64Array): Float64Array {
	const { corners, points, rim } = chart;
	const size = points.length / 3;
	const [first, last] = farApart(chart);
	const long = Math.hypot(
		...[0, 1, 2].map((k) => (points[first * 3 + k] as number) - (points[last * 3 + k] as number)),
	);
	const held = new Map([
		[first, 0],
		[first + size, 0],
		[last, long || 1],
		[last + size, 0],
	]);
	const right = new Float64Array(size * 2);
	const matrix = gather(size * 2, corners.length * 4 + rim.length * 4);
	for (const [i, v] of held) {
		right[i] = v;
		matrix.add(i, i, 1);
	}
	const add = (row: number, column: number, value: number): void => {
		if (held.has(row)) return;
		const known = held.get(column);
		if (known === undefined) matrix.add(row, column, value);
		else right[row] = (right[row] as number) - value * known;
	};
	for (let corner = 0; corner < corners.length; corner++) {
		// The angle at a corner stands against the edge of the two others.
		const [i, j] = [corners[nextCorner(corner)] as number, corners[nextCorner(nextCorner(corner))] as number];
		const w = (cots[corner] as number) / 2;
		for (const o of [0, size]) {
			add(i + o, i + o, w);
			add(j + o, j + o, w);
			add(i + o, j + o, -w);
			add(j + o, i + o, -w);
		}
	}
	for (const corner of rim) {
		const [i, j] = [corners[corner] as number, corners[nextCorner(corner)] as number];
		// Twice the area within the rim is the sum of x_i y_j − x_j y_i.
		add(i, j + size, -0.5);
		add(j + size, i, -0.5);
		add(j, i + size, 0.5);
		add(i + size, j, 0.5);
	}
	const x = solverOf(matrix.done())(right);
	return together(x.subarray(0, size), x.subarray(size));
}

/** Two vertices of the rim that lie far from each other. */
function farApart({ corners, points, rim }: Chart): readonly [number, number] {
	const list = rim.length ? rim.map((corner) => corners[corner] as number) : [...new Set(corners)];
	const far = (from: number): number => {
		let [best, most] = [from, -1];
		for (const v of list) {
			const d =
				((points[v * 3] as number) - (points[from * 3] as number)) ** 2 +
				((points[v * 3 + 1] as number) - (points[from * 3 + 1] as number)) ** 2 +
				((points[v * 3 + 2] as number) - (points[from * 3 + 2] as number)) ** 2;
			if (d > most) [best, most] = [v, d];
		}
		return best;
	};
	const first = far(list[0] as number);
	return [first, far(first)];
}

/**
 * The rim on a circle, all else between its neighbours: never turned over, but far from the shape. Source: W. Tutte, "How
 * to draw a graph" (1963).
 */
function onCircle(chart: Chart): Float64Array | null {
	const { corners, points, rim } = chart;
	const size = points.length / 3;
	const next = new Map(rim.map((corner) => [corners[corner] as number, corners[nextCorner(corner)] as number]));
	const loop: number[] = [];
	for (let at = corners[rim[0] as number] as number; loop.length <= rim.length; at = next.get(at) as number) {
		if (at === loop[0]) break;
		loop.push(at);
	}
	if (loop.length !== rim.length) return null;
	const step = (a: number, b: number): number =>
		Math.hypot(...[0, 1, 2].map((k) => (points[a * 3 + k] as number) - (points[b * 3 + k] as number)));
	const whole = loop.reduce((sum, v, i) => sum + step(v, loop[(i + 1) % loop.length] as number), 0);
	const held = new Map<number, readonly [number, number]>();
	let along = 0;
	loop.forEach((v, i) => {
		const angle = (2 * Math.PI * along) / whole;
		held.set(v, [(Math.cos(angle) * whole) / (2 * Math.PI), (Math.sin(angle) * whole) / (2 * Math.PI)]);
		along += step(v, loop[(i + 1) % loop.length] as number);
	});
	const matrix = gather(size, corners.length * 2);
	const rights = [new Float64Array(size), new Float64Array(size)] as const;
	for (const corner of corners.keys()) {
		const [i, j] = [corners[corner] as number, corners[nextCorner(corner)] as number];
		for (const [p, q] of [
			[i, j],
			[j, i],
		] as const) {
			if (held.has(p)) continue;
			matrix.add(p, p, 1);
			const known = held.get(q);
			if (!known) matrix.add(p, q, -1);
			else for (const axis of [0, 1] as const) rights[axis][p] = (rights[axis][p] as number) + known[axis];
		}
	}
	for (const [v, place] of held) {
		matrix.add(v, v, 1);
		for (const axis of [0, 1] as const) rights[axis][v] = place[axis];
	}
	const solve = solverOf(matrix.done());
	const [x, y] = rights.map(solve) as [Float64Array, Float64Array];
	return together(x, y);
}

/** Two lists of coordinates as places. */
function together(x: Float64Array, y: Float64Array): Float64Array {
	const out = new Float64Array(x.length * 2);
	for (let i = 0; i < x.length; i++) {
		out[i * 2] = x[i] as number;
		out[i * 2 + 1] = y[i] as number;
	}
	return out;
}

/**
 * Rounds of as-rigid-as-possible flattening: each face is turned to fit best, then all vertices follow. Keeps the size of
 * the surface. Source: L. Liu et al., "A local/global approach to mesh parameterization" (2008).
 */
function rigid(
	chart: Chart,
	places: Float64Array,
	rounds: number,
	cots: Float64Array,
	local: Float64Array,
): Float64Array {
	const { corners, points } = chart;
	const size = points.length / 3;
	const matrix = gather(size, corners.length * 2);
	matrix.add(0, 0, 1e-6);
	for (let corner = 0; corner < corners.length; corner++) {
		const [i, j] = [corners[nextCorner(corner)] as number, corners[nextCorner(nextCorner(corner))] as number];
		const w = cots[corner] as number;
		matrix.add(i, i, w);
		matrix.add(j, j, w);
		matrix.add(i, j, -w);
		matrix.add(j, i, -w);
	}
	const solve = solverOf(matrix.done());
	let x: Float64Array = Float64Array.from({ length: size }, (_, i) => places[i * 2] as number);
	let y: Float64Array = Float64Array.from({ length: size }, (_, i) => places[i * 2 + 1] as number);
	const [rx, ry] = [new Float64Array(size), new Float64Array(size)];
	for (let round = 0; round < rounds; round++) {
		rx.fill(0);
		ry.fill(0);
		for (let face = 0; face * 3 < corners.length; face++) {
			let [c, s] = [0, 0];
			for (let k = 0; k < 3; k++) {
				// The edge against corner k, in the plane of the face and as it lies.
				const [m, n] = [(k + 1) % 3, (k + 2) % 3];
				const w = cots[face * 3 + k] as number;
				const [lx, ly] = [
					(local[face * 6 + m * 2] as number) - (local[face * 6 + n * 2] as number),
					(local[face * 6 + m * 2 + 1] as number) - (local[face * 6 + n * 2 + 1] as number),
				];
				const [i, j] = [corners[face * 3 + m] as number, corners[face * 3 + n] as number];
				const [dx, dy] = [(x[i] as number) - (x[j] as number), (y[i] as number) - (y[j] as number)];
				c += w * (dx * lx + dy * ly);
				s += w * (dy * lx - dx * ly);
			}
			const long = Math.hypot(c, s) || 1;
			c /= long;
			s /= long;
			for (let k = 0; k < 3; k++) {
				const [m, n] = [(k + 1) % 3, (k + 2) % 3];
				const w = cots[face * 3 + k] as number;
				const [lx, ly] = [
					(local[face * 6 + m * 2] as number) - (local[face * 6 + n * 2] as number),
					(local[face * 6 + m * 2 + 1] as number) - (local[face * 6 + n * 2 + 1] as number),
				];
				const [i, j] = [corners[face * 3 + m] as number, corners[face * 3 + n] as number];
				const [tx, ty] = [w * (c * lx - s * ly), w * (s * lx + c * ly)];
				rx[i] = (rx[i] as number) + tx;
				ry[i] = (ry[i] as number) + ty;
				rx[j] = (rx[j] as number) - tx;
				ry[j] = (ry[j] as number) - ty;
			}
		}
		x = solve(rx);
		y = solve(ry);
	}
	return together(x, y);
}

/** Sized so that what lies flat has the area of the surface. */
function sized(chart: Chart, places: Float64Array, areas: Float64Array, local: Float64Array): Float64Array {
	let [flat, whole] = [0, 0];
	for (let face = 0; face < areas.length; face++) {
		const [a, b, c, d] = jacobian(chart.corners, local, places, face);
		flat += (areas[face] as number) * Math.abs(a * d - b * c);
		whole += areas[face] as number;
	}
	const scale = flat > 0 ? Math.sqrt(whole / flat) : 1;
	return places.map((v) => v * scale);
}

/**
 * Lays a chart flat with as little stretch as it can be, its rim free. Where that turns faces over it is begun anew from
 * a circle. A chart that is no disk comes out as well as it can: open it up first.
 */
export function flatten(chart: Chart, rounds = 12): Flat {
	const { local, areas } = flatFaces(chart);
	if (chart.faces.length === 1) return measureFlat(chart, singleFace(chart, local));
	const cots = cotangents(chart, local, areas);
	const first = rigid(chart, sized(chart, conformal(chart, cots), areas, local), rounds, cots, local);
	const flat = measureFlat(chart, first);
	if (flat.flips === 0) return flat;
	const circle = onCircle(chart);
	if (!circle) return flat;
	const second = measureFlat(chart, rigid(chart, sized(chart, circle, areas, local), rounds * 3, cots, local));
	return second.flips < flat.flips ? second : flat;
}

function singleFace({ corners }: Chart, local: Float64Array): Float64Array {
	const out = new Float64Array(6);
	for (let k = 0; k < 3; k++) out.set(local.subarray(k * 2, k * 2 + 2), (corners[k] as number) * 2);
	return out;
}
