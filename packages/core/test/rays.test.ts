/** Rays in the kernels against a plain tracer, and what they say of hidden sky against closed forms. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { createRays, domeOf, type OcclusionOf, PLACE_NUMBERS } from '../src/bake/index.ts';
import type { Mesh } from '../src/mesh/index.ts';
import { ball, box, tube } from './oracle/meshes.ts';
import { crate, lump } from './oracle/shapes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

type Vec = readonly [number, number, number];
/** Quads of four corners each, counter-clockwise seen from outside. */
const quads = (...list: readonly (readonly [Vec, Vec, Vec, Vec])[]): Mesh => ({
	positions: Float32Array.from(list.flat(2)),
	normals: null,
	indices: Uint32Array.from(list.flatMap((_, i) => [0, 1, 2, 0, 2, 3].map((k) => i * 4 + k))),
	parts: [{ name: 'All', firstFace: 0, faces: list.length * 2 }],
});
const all: OcclusionOf = { rays: 1024, reach: 1e9, fades: false, spread: 90 };
/** Places with their normal, each with a turn of its own. */
const places = (list: readonly (readonly [at: Vec, normal: Vec])[]): Float32Array =>
	Float32Array.from(list.flatMap(([at, n], i) => [...at, ...n, Math.cos(i * 2.4), Math.sin(i * 2.4), ...n, 0]));
const hidden = (mesh: Mesh, list: readonly (readonly [Vec, Vec])[], of = all): number[] => {
	const rays = createRays(kernels, mesh);
	const found = [...rays.occlusion(places(list), of)];
	rays.drop();
	return found;
};
const up: Vec = [0, 1, 0];
/** So long that it is endless for what stands beside its middle. */
const FAR = 60;

/** The nearest triangle along a ray, looked at one by one: Möller and Trumbore in doubles. */
function plainLength({ positions, indices }: Mesh, o: readonly number[], d: readonly number[], far: number): number {
	let best = far;
	const at = (v: number): number[] => [...positions.subarray(v * 3, v * 3 + 3)];
	const sub = (a: readonly number[], b: readonly number[]): number[] => a.map((x, k) => x - (b[k] as number));
	const dot = (a: readonly number[], b: readonly number[]): number =>
		a.reduce((sum, x, k) => sum + x * (b[k] as number), 0);
	const cross = ([ax, ay, az]: readonly number[], [bx, by, bz]: readonly number[]): number[] =>
		[
			[ay, az, by, bz],
			[az, ax, bz, bx],
			[ax, ay, bx, by],
		].map(([p, q, r, s]) => (p as number) * (s as number) - (q as number) * (r as number));
	for (let face = 0; face < indices.length; face += 3) {
		const [a, b, c] = [0, 1, 2].map((k) => at(indices[face + k] as number)) as [number[], number[], number[]];
		const [e, f] = [sub(b, a), sub(c, a)];
		const p = cross(d, f);
		const det = dot(e, p);
		if (det === 0) continue;
		const s = sub(o, a);
		const [u, q] = [dot(s, p) / det, cross(s, e)];
		const [v, t] = [dot(d, q) / det, dot(f, q) / det];
		if (u >= 0 && v >= 0 && u + v <= 1 && t > 0 && t < best) best = t;
	}
	return best;
}

test('a ray meets what looking at every triangle meets, as far away', () => {
	for (const mesh of [box(), ball(), tube(), crate(), lump(20, 10)]) {
		const rays = createRays(kernels, mesh);
		fc.assert(
			fc.property(fc.array(fc.double({ min: -1, max: 1, noNaN: true }), { minLength: 6, maxLength: 6 }), (values) => {
				const o = values.slice(0, 3).map((v) => Math.fround(v * 4));
				const length = Math.hypot(...values.slice(3));
				fc.pre(length > 0.05);
				const d = values.slice(3).map((v) => Math.fround(v / length));
				const [found] = rays.lengths(Float32Array.from([...o, ...d]), 50);
				const wanted = plainLength(mesh, o, d, 50);
				// A ray that grazes an edge may go either way.
				if (Math.abs((found as number) - wanted) > 1e-3) {
					const beside = [-1, 1].flatMap((by) =>
						[0, 1, 2, 3].map((axis) =>
							plainLength(
								mesh,
								o.map((x, k) => (axis === k || axis === 3 ? x + by * 1e-4 * (k + 1) : x)),
								d,
								50,
							),
						),
					);
					expect(Math.min(...beside.map((each) => Math.abs(each - (found as number))))).toBeLessThan(2e-3);
				}
			}),
			{ numRuns: 120 },
		);
		rays.drop();
	}
});

describe('what is hidden of the sky, against closed forms', () => {
	test('beside a wall of a height: half of what the angle of its top says', () => {
		for (const [away, high] of [
			[1, 1],
			[1, 3],
			[2, 1],
			[0.3, 2],
		] as const) {
			const wall = quads([
				[0, 0, -FAR],
				[0, 0, FAR],
				[0, high, FAR],
				[0, high, -FAR],
			]);
			const [found] = hidden(wall, [[[away, 0, 0], up]]);
			const wanted = 0.5 * (1 - away / Math.hypot(away, high));
			expect(Math.abs((found as number) - wanted)).toBeLessThan(2 / 255);
		}
	});

	test('in a trench without end: all that its walls are not open to', () => {
		for (const [wide, deep] of [
			[2, 1],
			[1, 2],
			[4, 1],
		] as const) {
			const wall = (x: number): [Vec, Vec, Vec, Vec] => [
				[x, 0, -FAR],
				[x, 0, FAR],
				[x, deep, FAR],
				[x, deep, -FAR],
			];
			const [found] = hidden(quads(wall(-wide / 2), wall(wide / 2)), [[[0, 0, 0], up]]);
			expect(Math.abs((found as number) - (1 - wide / Math.hypot(wide, 2 * deep)))).toBeLessThan(2 / 255);
		}
	});

	test('under a ball: its disc, by the cosine of where it stands', () => {
		const mesh = lumpless();
		for (const [x, y] of [
			[0, 3],
			[2, 2.2],
			[3, 1.5],
		] as const) {
			const moved: Mesh = {
				...mesh,
				positions: mesh.positions.map((v, i) => v + (i % 3 === 0 ? x : i % 3 === 1 ? y : 0)),
			};
			const [found] = hidden(moved, [[[0, 0, 0], up]], { ...all, rays: 4096 });
			const away = Math.hypot(x, y);
			expect(Math.abs((found as number) - y / away ** 3)).toBeLessThan(2 / 255);
		}
	});

	test('inside of a box everything is hidden, on a ball nothing is, and beyond the reach nothing counts', () => {
		const inward: Mesh = { ...box(), indices: box().indices.slice().reverse() };
		expect(hidden(inward, [[[0, -0.9, 0], up]])).toEqual([1]);
		expect(hidden(inward, [[[0, -0.9, 0], up]], { ...all, reach: 0.5 })).toEqual([0]);
		expect(hidden(ball(), [[[0, 1.31, 0], up]])).toEqual([0]);
		const [near, far] = [0.6, 1.2].map(
			(reach) => hidden(inward, [[[0, 0.5, 0], up]], { ...all, reach, fades: true })[0] as number,
		) as [number, number];
		expect(near).toBeGreaterThan(0);
		expect(far).toBeGreaterThan(near);
		expect(far).toBeLessThan(1);
	});
});

/** A ball of radius 1, fine enough for a closed form. */
function lumpless(): Mesh {
	const [around, down] = [96, 48];
	const positions: number[] = [];
	for (let j = 0; j <= down; j++)
		for (let i = 0; i < around; i++) {
			const [a, b] = [(2 * Math.PI * i) / around, (Math.PI * j) / down];
			positions.push(Math.sin(b) * Math.cos(a), Math.cos(b), Math.sin(b) * Math.sin(a));
		}
	const at = (i: number, j: number): number => j * around + (i % around);
	const indices: number[] = [];
	for (let j = 0; j < down; j++)
		for (let i = 0; i < around; i++)
			indices.push(at(i, j), at(i + 1, j), at(i, j + 1), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1));
	return {
		positions: Float32Array.from(positions),
		normals: null,
		indices: Uint32Array.from(indices),
		parts: [{ name: 'Ball', firstFace: 0, faces: indices.length / 3 }],
	};
}

test('directions of a dome are as many by the cosine as a surface sees, of unit length', () => {
	const ways = domeOf(2000);
	let [sum, most] = [0, 0];
	for (let i = 0; i < ways.length; i += 3) {
		const [x, y, z] = ways.subarray(i, i + 3) as unknown as Vec;
		expect(Math.hypot(x, y, z)).toBeCloseTo(1, 5);
		sum += z;
		most = Math.max(most, Math.hypot(x, y));
	}
	// The mean of a cosine that is weighed by itself is two thirds.
	expect(sum / 2000).toBeCloseTo(2 / 3, 3);
	expect(most).toBeLessThan(1);
	for (const z of domeOf(100, 30).filter((_, i) => i % 3 === 2))
		expect(z).toBeGreaterThan(Math.cos(Math.PI / 6) - 1e-6);
	expect(PLACE_NUMBERS).toBe(12);
});
