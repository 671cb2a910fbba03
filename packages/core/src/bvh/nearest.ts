import type { Bvh } from './build.ts';

/** The place of a mesh's surface that is nearest to a point. */
export interface Near {
	readonly face: number;
	/** Of the face's second and third corner; the first has what is left of 1. */
	readonly v: number;
	readonly w: number;
	readonly distance: number;
}

/**
 * The place of a triangle that is nearest to a point, as the shares of its second and third corner and the square of the
 * distance: Ericson, Real-Time Collision Detection (2005), 5.1.5.
 */
function nearestOnFace(
	p: readonly number[],
	at: Float32Array,
	a: number,
	b: number,
	c: number,
	out: Float64Array,
): void {
	const [px, py, pz] = p as [number, number, number];
	const ax = at[a] as number;
	const ay = at[a + 1] as number;
	const az = at[a + 2] as number;
	const abx = (at[b] as number) - ax;
	const aby = (at[b + 1] as number) - ay;
	const abz = (at[b + 2] as number) - az;
	const acx = (at[c] as number) - ax;
	const acy = (at[c + 1] as number) - ay;
	const acz = (at[c + 2] as number) - az;
	const set = (v: number, w: number): void => {
		out[0] = v;
		out[1] = w;
		out[2] =
			(ax + v * abx + w * acx - px) ** 2 + (ay + v * aby + w * acy - py) ** 2 + (az + v * abz + w * acz - pz) ** 2;
	};
	const d1 = abx * (px - ax) + aby * (py - ay) + abz * (pz - az);
	const d2 = acx * (px - ax) + acy * (py - ay) + acz * (pz - az);
	if (d1 <= 0 && d2 <= 0) return set(0, 0);
	const bb = abx * abx + aby * aby + abz * abz;
	const bc = abx * acx + aby * acy + abz * acz;
	const cc = acx * acx + acy * acy + acz * acz;
	const [d3, d4, d5, d6] = [d1 - bb, d2 - bc, d1 - bc, d2 - cc];
	if (d3 >= 0 && d4 <= d3) return set(1, 0);
	const vc = d1 * d4 - d3 * d2;
	if (vc <= 0 && d1 >= 0 && d3 <= 0) return set(d1 / (d1 - d3), 0);
	if (d6 >= 0 && d5 <= d6) return set(0, 1);
	const vb = d5 * d2 - d1 * d6;
	if (vb <= 0 && d2 >= 0 && d6 <= 0) return set(0, d2 / (d2 - d6));
	const va = d3 * d6 - d5 * d4;
	if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
		const w = (d4 - d3) / (d4 - d3 + (d5 - d6));
		return set(1 - w, w);
	}
	const sum = va + vb + vc;
	// A face without area: as its first corner.
	if (sum === 0) return set(0, 0);
	set(vb / sum, vc / sum);
}

/** The nearest place to a point among the faces for which `takes` holds; null where there is none. */
export function nearestOn(
	{ mesh, bounds, first, count, order }: Bvh,
	point: readonly number[],
	takes: (face: number) => boolean = () => true,
): Near | null {
	const { positions, indices } = mesh;
	const far = (node: number): number => {
		let sum = 0;
		for (let axis = 0; axis < 3; axis++) {
			const p = point[axis] as number;
			const by = Math.max(0, (bounds[node * 6 + axis] as number) - p, p - (bounds[node * 6 + 3 + axis] as number));
			sum += by * by;
		}
		return sum;
	};
	let [face, v, w, least] = [-1, 0, 0, Infinity];
	const found = new Float64Array(3);
	const stack: number[] = count.length ? [0] : [];
	while (stack.length) {
		const node = stack.pop() as number;
		if (far(node) >= least) continue;
		if (count[node] === 0) {
			const [one, two] = [node + 1, first[node] as number];
			// The nearer one is looked at first.
			if (far(one) < far(two)) stack.push(two, one);
			else stack.push(one, two);
			continue;
		}
		for (let i = 0; i < (count[node] as number); i++) {
			const each = order[(first[node] as number) + i] as number;
			if (!takes(each)) continue;
			const at = each * 3;
			const [a, b, c] = [indices[at] as number, indices[at + 1] as number, indices[at + 2] as number];
			nearestOnFace(point, positions, a * 3, b * 3, c * 3, found);
			if ((found[2] as number) >= least) continue;
			face = each;
			[v, w, least] = found as unknown as [number, number, number];
		}
	}
	return face < 0 ? null : { face, v, w, distance: Math.sqrt(least) };
}
