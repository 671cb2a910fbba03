import { triangleArea } from './arrange.ts';

/** Islands of the same shape, to be laid over each other on purpose. */

/** Shares of an island's size that like ones may differ by. */
const NEAR = 0.004;

interface Shape {
	readonly faces: number;
	/** Its middle, and how far its farthest corner is from it. */
	readonly x: number;
	readonly y: number;
	readonly reach: number;
	readonly area: number;
	/** Corners around the middle, each place once. */
	readonly places: readonly (readonly [number, number])[];
}

function shapeOf(uvs: Float64Array): Shape {
	let [x, y, area] = [0, 0, 0];
	for (let i = 0; i < uvs.length; i += 6) {
		const own = triangleArea(uvs, i);
		const sum = (axis: 0 | 1): number => [0, 2, 4].reduce((all, k) => all + (uvs[i + k + axis] as number), 0);
		area += own;
		x += (own * sum(0)) / 3;
		y += (own * sum(1)) / 3;
	}
	[x, y] = [x / (area || 1), y / (area || 1)];
	let reach = 0;
	for (let i = 0; i < uvs.length; i += 2)
		reach = Math.max(reach, Math.hypot((uvs[i] as number) - x, (uvs[i + 1] as number) - y));
	const grain = reach * NEAR || 1;
	const seen = new Map<string, readonly [number, number]>();
	for (let i = 0; i < uvs.length; i += 2) {
		const at = [(uvs[i] as number) - x, (uvs[i + 1] as number) - y] as const;
		seen.set(`${Math.round(at[0] / grain)} ${Math.round(at[1] / grain)}`, at);
	}
	return { faces: uvs.length / 6, x, y, reach, area, places: [...seen.values()] };
}

/** The turn that lays one shape on another, as cosine and sine; null where they are not alike. A mirror image is not. */
function turnOnto(one: Shape, other: Shape): readonly [number, number] | null {
	const near = one.reach * NEAR * 2;
	if (
		one.faces !== other.faces ||
		Math.abs(one.reach - other.reach) > near ||
		Math.abs(one.area - other.area) > one.area * NEAR * 4
	)
		return null;
	// The corner that is farthest out comes to lie on one that is as far out.
	const far = one.places.reduce((best, each) =>
		Math.hypot(each[0], each[1]) > Math.hypot(best[0], best[1]) ? each : best,
	);
	for (const to of other.places) {
		if (Math.abs(Math.hypot(...to) - one.reach) > near) continue;
		const turn = Math.atan2(to[1], to[0]) - Math.atan2(far[1], far[0]);
		const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
		const fits = one.places.every(([px, py]) => {
			const [x, y] = [px * cos - py * sin, px * sin + py * cos];
			return other.places.some(([qx, qy]) => Math.abs(qx - x) < near && Math.abs(qy - y) < near);
		});
		if (fits) return [cos, sin];
	}
	return null;
}

/** Which of some islands is laid on which: for each the number of the one it lies on (its own where on none), and its corners there. */
export interface Stacked {
	readonly on: readonly number[];
	readonly uvs: readonly Float64Array[];
}

/** Lays islands on the first one that is like them, turned as that asks for. Islands are triangles' corners, six numbers each. */
export function stackAlike(islands: readonly Float64Array[]): Stacked {
	const shapes = islands.map(shapeOf);
	const on: number[] = [];
	const uvs = islands.map((corners, i) => {
		const shape = shapes[i] as Shape;
		for (let j = 0; j < i; j++) {
			if (on[j] !== j) continue;
			const other = shapes[j] as Shape;
			const turn = turnOnto(shape, other);
			if (!turn) continue;
			on.push(j);
			const [cos, sin] = turn;
			return corners.map((_, k) => {
				const [px, py] = [(corners[k & ~1] as number) - shape.x, (corners[k | 1] as number) - shape.y];
				return k % 2 ? px * sin + py * cos + other.y : px * cos - py * sin + other.x;
			});
		}
		on.push(i);
		return corners;
	});
	return { on, uvs };
}

/** Where corners lie once an island was moved from some corners to others by turning, sizing and moving. */
export function alsoMoved(from: Float64Array, to: Float64Array, corners: Float64Array): Float64Array {
	// Complex numbers: to = a · from + b, by least squares.
	const count = from.length / 2;
	const mean = (list: Float64Array, axis: 0 | 1): number => {
		let sum = 0;
		for (let i = axis; i < list.length; i += 2) sum += list[i] as number;
		return sum / count;
	};
	const [fx, fy, tx, ty] = [mean(from, 0), mean(from, 1), mean(to, 0), mean(to, 1)];
	let [re, im, all] = [0, 0, 0];
	const flips = Math.sign(signed(from)) !== Math.sign(signed(to)) ? -1 : 1;
	for (let i = 0; i < from.length; i += 2) {
		const [px, py] = [(from[i] as number) - fx, flips * ((from[i + 1] as number) - fy)];
		const [qx, qy] = [(to[i] as number) - tx, (to[i + 1] as number) - ty];
		re += px * qx + py * qy;
		im += px * qy - py * qx;
		all += px * px + py * py;
	}
	[re, im] = [re / (all || 1), im / (all || 1)];
	return corners.map((_, k) => {
		const [px, py] = [(corners[k & ~1] as number) - fx, flips * ((corners[k | 1] as number) - fy)];
		return k % 2 ? px * im + py * re + ty : px * re - py * im + tx;
	});
}

/** Twice the area that triangles go around, with its sign. */
function signed(uvs: Float64Array): number {
	let sum = 0;
	for (let i = 0; i < uvs.length; i += 6)
		sum +=
			((uvs[i + 2] as number) - (uvs[i] as number)) * ((uvs[i + 5] as number) - (uvs[i + 1] as number)) -
			((uvs[i + 4] as number) - (uvs[i] as number)) * ((uvs[i + 3] as number) - (uvs[i + 1] as number));
	return sum;
}
