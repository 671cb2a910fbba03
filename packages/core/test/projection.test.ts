import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { buildTexelMap, type TexelMap } from '../src/atlas/index.ts';
import { type LaidMesh, meshBounds, planeCut } from '../src/mesh/index.ts';
import {
	type Camera,
	cameraBasis,
	clearCoverage,
	createBins,
	createCoverage,
	createView,
	dropBins,
	facesNear,
	framing,
	homeCamera,
	mirrorPlace,
	modelTarget,
	plainDab,
	planeThrough,
	projectionOf,
	renderModel,
	seenShare,
	sheetTarget,
	takeTouched,
} from '../src/projection/index.ts';
import { ball, box, tube } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

const camera = (change: Partial<Camera>): Camera => ({ ...homeCamera, distance: 8, ...change });

const axis = fc.double({ min: -2, max: 2, noNaN: true });

test('a projection puts points where the camera’s axes say, near ones first', () => {
	fc.assert(
		fc.property(
			fc.record({
				yaw: fc.integer({ min: -180, max: 180 }),
				pitch: fc.integer({ min: -89, max: 89 }),
				roll: fc.integer({ min: -90, max: 90 }),
				parallel: fc.boolean(),
			}),
			fc.tuple(axis, axis, axis),
			(change, p) => {
				const from = camera(change);
				const { X, Y, W, N } = projectionOf(from, 800, 600);
				const { eye, right, up, forward } = cameraBasis(from);
				const value = (row: readonly number[]): number =>
					(row[0] as number) * p[0] + (row[1] as number) * p[1] + (row[2] as number) * p[2] + (row[3] as number);
				const dot = (axis: readonly number[]): number =>
					[0, 1, 2].reduce((sum, i) => sum + (axis[i] as number) * ((p[i] as number) - (eye[i] as number)), 0);
				const depth = from.parallel ? from.distance : dot(forward);
				const scale = 300 / (depth * Math.tan((from.fov * Math.PI) / 360));
				const nearer = value(N) / value(W);
				const behind = [0, 1, 2].map((i) => (p[i] as number) + 0.5 * (forward[i] as number));
				const farther =
					(N[0] * (behind[0] as number) + N[1] * (behind[1] as number) + N[2] * (behind[2] as number) + N[3]) /
					(W[0] * (behind[0] as number) + W[1] * (behind[1] as number) + W[2] * (behind[2] as number) + W[3]);
				return (
					Math.abs(value(X) / value(W) - (400 + scale * dot(right))) < 1e-6 &&
					Math.abs(value(Y) / value(W) - (300 - scale * dot(up))) < 1e-6 &&
					nearer > farther
				);
			},
		),
	);
});

test('framing brings a ball whole into the view and fills it', () => {
	for (const [width, height] of [
		[800, 400],
		[300, 700],
	] as const) {
		const from = framing(homeCamera, [3, 1, 2], 2, width, height);
		const { X, Y, W } = projectionOf(from, width, height);
		let reach = 0;
		for (let i = 0; i < 400; i++) {
			const [a, b] = [i * 2.39996, 1 - (2 * (i + 0.5)) / 400];
			const p = [3 + 2 * Math.sqrt(1 - b * b) * Math.cos(a), 1 + 2 * b, 2 + 2 * Math.sqrt(1 - b * b) * Math.sin(a)];
			const at = (row: readonly number[]): number =>
				(row[0] as number) * (p[0] as number) +
				(row[1] as number) * (p[1] as number) +
				(row[2] as number) * (p[2] as number) +
				(row[3] as number);
			reach = Math.max(
				reach,
				Math.abs(at(X) / at(W) - width / 2) / (width / 2),
				Math.abs(at(Y) / at(W) - height / 2) / (height / 2),
			);
		}
		expect(reach).toBeLessThan(1);
		expect(reach).toBeGreaterThan(0.85);
	}
});

test.each([
	['perspective', false],
	['parallel', true],
] as const)('in %s a box hides its far side and shows its near one', (_name, parallel) => {
	const view = createView(box(), projectionOf(camera({ yaw: 0, pitch: 0, parallel }), 400, 400));
	const seen = (z: number): boolean => {
		const { X, Y, W, N } = view.projection;
		const w = W[2] * z + W[3];
		return seenShare(view, (X[2] * z + X[3]) / w, (Y[2] * z + Y[3]) / w, (N[2] * z + N[3]) / w, 0, 0) === 1;
	};
	expect(seen(1)).toBe(true);
	expect(seen(0.9)).toBe(false);
	expect(seen(-1)).toBe(false);
});

/** Every texel's screen place by brute force over its face, or null; gutter texels on their face's plane. */
function project(
	map: TexelMap,
	mesh: LaidMesh,
	camera_: Camera,
	face: number,
	x: number,
	y: number,
	size: number,
): readonly [number, number] {
	const [a, b, c] = [0, 1, 2].map((k) => mesh.indices[face * 3 + k] as number) as [number, number, number];
	const uv = (v: number): [number, number] => [
		(mesh.uvs[v * 2] as number) * map.width,
		(mesh.uvs[v * 2 + 1] as number) * map.height,
	];
	const [A, B, C] = [uv(a), uv(b), uv(c)];
	const det = (B[0] - A[0]) * (C[1] - A[1]) - (C[0] - A[0]) * (B[1] - A[1]);
	const s = ((x + 0.5 - A[0]) * (C[1] - A[1]) - (C[0] - A[0]) * (y + 0.5 - A[1])) / det;
	const t = ((B[0] - A[0]) * (y + 0.5 - A[1]) - (x + 0.5 - A[0]) * (B[1] - A[1])) / det;
	const p = [0, 1, 2].map(
		(k) =>
			(mesh.positions[a * 3 + k] as number) * (1 - s - t) +
			(mesh.positions[b * 3 + k] as number) * s +
			(mesh.positions[c * 3 + k] as number) * t,
	);
	const { X, Y, W } = projectionOf(camera_, size, size);
	const at = (row: readonly number[]): number =>
		(row[0] as number) * (p[0] as number) +
		(row[1] as number) * (p[1] as number) +
		(row[2] as number) * (p[2] as number) +
		(row[3] as number);
	return [at(X) / at(W), at(Y) / at(W)];
}

const coverageAt = (coverage: { at: number; cols: number }, x: number, y: number): number =>
	kernels.heap.u16[
		(coverage.at >> 1) + ((y >> 6) * coverage.cols + (x >> 6)) * 4096 + (y & 63) * 64 + (x & 63)
	] as number;

describe.each([
	['tube', tube()],
	['box', box()],
	['ball', ball()],
] as const)('a dab on a %s', (_name, mesh) => {
	const size = 256;
	const map = buildTexelMap(mesh, () => true, size, size, 6);
	const seen = camera({ yaw: 12, pitch: 12 });

	test('covers just the texels seen under its disc, in front only', () => {
		const bins = createBins(createView(mesh, projectionOf(seen, 320, 320)), map);
		const coverage = createCoverage(kernels, size, size);
		const dab = plainDab(150.3, 171.8, 41, 1, 1);
		modelTarget(kernels, bins).dab(coverage, dab, false);
		let [wrong, covered] = [0, 0];
		for (let y = 0; y < size; y++)
			for (let x = 0; x < size; x++) {
				const face = (map.faceOfTexel[y * size + x] as number) - 1;
				if (face < 0) continue;
				const [sx, sy] = project(map, mesh, seen, face, x, y, 320);
				const distance = Math.hypot(sx - dab.x, sy - dab.y);
				const got = coverageAt(coverage, x, y);
				if (got) covered++;
				// Far outside, or turned away: nothing. Well inside and turned to us on a convex body: all of it.
				if (distance > dab.radius + 0.1 && got) wrong++;
				if (!bins.view.front[face] && got) wrong++;
				if (distance < dab.radius - 1.2 && bins.view.front[face] && got !== 65535 && facing(bins, face) > 0.25) wrong++;
			}
		expect(covered).toBeGreaterThan(300);
		expect(wrong).toBe(0);
		dropBins(kernels, bins);
	});

	test('has the same weight on both sides of a seam, and fills the bleed beside what it covers', () => {
		const bins = createBins(createView(mesh, projectionOf(seen, 320, 320)), map);
		const coverage = createCoverage(kernels, size, size);
		const target = modelTarget(kernels, bins);
		for (let x = 40; x < 280; x += 2) target.dab(coverage, plainDab(x, 150 + 10 * Math.sin(x / 20), 4, 0.2, 1), false);
		// A gutter texel must hold what the surface, continued to it, takes.
		let [sum, count, holes] = [0, 0, 0];
		for (let g = 0; g < map.gutterTexel.length; g++) {
			const texel = map.gutterTexel[g] as number;
			const source = map.gutterSource[g] as number;
			const face = (map.faceOfTexel[source] as number) - 1;
			if (!bins.view.front[face] || facing(bins, face) < 0.3) continue;
			const [tx, ty] = [texel % size, Math.floor(texel / size)];
			const [sx, sy] = project(map, mesh, seen, face, tx, ty, 320);
			let want = 0;
			for (let x = 40; x < 280; x += 2) {
				const d = Math.hypot(sx - x, sy - (150 + 10 * Math.sin(x / 20)));
				const f = Math.min(1, Math.max(0, (4 - d) / 3.2));
				want = Math.max(want, f * f * (3 - 2 * f));
			}
			const got = coverageAt(coverage, tx, ty) / 65535;
			if (want < 0.02 && got === 0) continue;
			count++;
			sum += Math.abs(got - want);
			if (want > 0.2 && got === 0) holes++;
		}
		expect(count).toBeGreaterThan(20);
		expect((255 * sum) / count).toBeLessThan(1);
		expect(holes).toBe(0);
		dropBins(kernels, bins);
	});
});

/** Cosine of the angle between a face and the way to the camera. */
function facing(bins: { readonly view: ReturnType<typeof createView> }, face: number): number {
	const { mesh, projection } = bins.view;
	const [a, b, c] = [0, 1, 2].map((k) => (mesh.indices[face * 3 + k] as number) * 3) as [number, number, number];
	const p = mesh.positions;
	const u = [0, 1, 2].map((i) => (p[b + i] as number) - (p[a + i] as number));
	const v = [0, 1, 2].map((i) => (p[c + i] as number) - (p[a + i] as number));
	const n = [1, 2, 0].map(
		(j, i) =>
			(u[j] as number) * (v[[2, 0, 1][i] as number] as number) -
			(u[[2, 0, 1][i] as number] as number) * (v[j] as number),
	);
	const e = [0, 1, 2].map((i) => (projection.eye[i] as number) - (p[a + i] as number) * projection.eye[3]);
	return n.reduce((sum, x, i) => sum + x * (e[i] as number), 0) / (Math.hypot(...n) * Math.hypot(...e));
}

test('what the dab before covers at least as well may be left out: the coverage stays the same', () => {
	fc.assert(
		fc.property(
			fc.array(
				fc.record({
					dx: fc.integer({ min: -9, max: 9 }),
					dy: fc.integer({ min: -9, max: 9 }),
					shrink: fc.double({ min: 0.7, max: 1.2, noNaN: true }),
				}),
				{ minLength: 2, maxLength: 12 },
			),
			(steps) => {
				const [with_, without] = [createCoverage(kernels, 128, 128), createCoverage(kernels, 128, 128)];
				let dab = plainDab(64, 64, 22, 0.4, 0.9);
				let before: typeof dab | undefined;
				const target = sheetTarget(kernels, 128);
				for (const { dx, dy, shrink } of steps) {
					target.dab(with_, dab, false, before);
					target.dab(without, dab, false);
					before = dab;
					dab = {
						...dab,
						x: dab.x + dx * 0.77,
						y: dab.y + dy * 0.77,
						radius: Math.min(30, Math.max(3, dab.radius * shrink)),
					};
				}
				// Places of dabs are kept to a quarter texel, so near the dividing line a rim may differ by what that makes.
				let worst = 0;
				for (let i = 0; i < 4 * 4096; i++)
					worst = Math.max(
						worst,
						Math.abs(
							(kernels.heap.u16[(with_.at >> 1) + i] as number) - (kernels.heap.u16[(without.at >> 1) + i] as number),
						),
					);
				for (const each of [with_, without]) clearCoverage(kernels, each, takeTouched(kernels, each));
				return worst <= 65535 / 255;
			},
		),
		{ numRuns: 60 },
	);
});

test('a model rendered without a graphics card shows its sheet’s colours where it is, and nothing elsewhere', () => {
	const red = {
		width: 4,
		height: 4,
		data: Uint8Array.from({ length: 64 }, (_, i) => [200, 30, 20, 255][i % 4] as number),
	};
	const picture = renderModel(box(), [red], camera({ yaw: 20, pitch: 20, distance: 9 }), 120, 90);
	expect([...picture.data.subarray((45 * 120 + 60) * 4, (45 * 120 + 60) * 4 + 4)]).toEqual([200, 30, 20, 255]);
	expect([...picture.data.subarray(0, 4)]).toEqual([0, 0, 0, 0]);
});

describe('straight views', () => {
	/** The mean coverage of the texels of each face, under one dab over the whole view. */
	const takenBy = (mesh: LaidMesh, seen: Camera, reach: 'seen' | 'front' | 'through' = 'seen', fade = 0): number[] => {
		const size = 256;
		const map = buildTexelMap(mesh, () => true, size, size, 4);
		const bins = createBins(createView(mesh, projectionOf(seen, 320, 320), undefined, reach, fade), map);
		const coverage = createCoverage(kernels, size, size);
		modelTarget(kernels, bins).dab(coverage, plainDab(160, 160, 400, 1, 1), false);
		const sums = new Float64Array(mesh.indices.length / 3);
		const counts = new Float64Array(sums.length);
		for (let y = 0; y < size; y++)
			for (let x = 0; x < size; x++) {
				const face = (map.faceOfTexel[y * size + x] as number) - 1;
				if (face < 0) continue;
				sums[face] = (sums[face] as number) + coverageAt(coverage, x, y) / 65535;
				counts[face] = (counts[face] as number) + 1;
			}
		dropBins(kernels, bins);
		return [...sums].map((sum, face) => sum / Math.max(1, counts[face] as number));
	};
	const straight = [
		[0, 0],
		[90, 0],
		[180, 0],
		[-90, 0],
		[0, 90],
		[0, -90],
	] as const;
	test.each(straight)(
		'from yaw %d, pitch %d a box takes paint on the side that is seen, and nowhere else',
		(yaw, pitch) => {
			for (const parallel of [true, false]) {
				const taken = takenBy(box(), camera({ yaw, pitch, parallel }));
				expect(taken.filter((share) => share > 0.99)).toHaveLength(taken.length / 6);
				expect(taken.filter((share) => share > 0 && share <= 0.99)).toEqual([]);
			}
		},
	);
	test('nearly edge-on faces take none, unless the brush reaches through', () => {
		const seen = camera({ yaw: 0.9, pitch: 0, parallel: true });
		expect(takenBy(box(), seen).filter((share) => share > 0)).toHaveLength(box().indices.length / 18);
		expect(takenBy(box(), seen, 'through').every((share) => share > 0.95)).toBe(true);
	});
	test('paint fades as the surface turns away, as far as the dial says', () => {
		const seen = camera({ yaw: 0, pitch: 0, parallel: true });
		const mesh = ball();
		const cosines = createView(mesh, projectionOf(seen, 320, 320)).facing;
		for (const fade of [0, 0.5, 1]) {
			const taken = takenBy(mesh, seen, 'seen', fade);
			const at = (low: number, high: number): number => {
				const list = taken.filter((_, face) => (cosines[face] as number) > low && (cosines[face] as number) < high);
				return list.reduce((sum, share) => sum + share, 0) / list.length;
			};
			expect(at(0.95, 1)).toBeGreaterThan(0.95);
			const middle = at(0.4, 0.6);
			if (fade === 0) expect(middle).toBeGreaterThan(0.97);
			else expect(Math.abs(middle - (fade === 1 ? 0.5 : 0.98))).toBeLessThan(0.06);
		}
	});
});

test('where another part hides the surface, the rim of the paint is smooth', () => {
	// A small square before a large one, turned a little so that its rim runs aslant over the px.
	const quad = (half: number, z: number, turn: number): number[] =>
		[45, 135, 225, 315].flatMap((angle) => {
			const a = ((angle + turn) * Math.PI) / 180;
			return [half * Math.SQRT2 * Math.cos(a), half * Math.SQRT2 * Math.sin(a), z];
		});
	const mesh: LaidMesh = {
		positions: Float32Array.from([...quad(2, 0, 0), ...quad(0.6, 0.8, 20)]),
		uvs: Float32Array.from([
			0.95, 0.05, 0.05, 0.05, 0.05, 0.95, 0.95, 0.95, 0.99, 0.99, 0.98, 0.99, 0.98, 0.98, 0.99, 0.98,
		]),
		normals: null,
		indices: Uint32Array.from([0, 1, 2, 0, 2, 3, 4, 5, 6, 4, 6, 7]),
		parts: [{ name: 'Both', firstFace: 0, faces: 4 }],
	};
	const size = 1024;
	const map = buildTexelMap(mesh, () => true, size, size, 0);
	const bins = createBins(createView(mesh, projectionOf(camera({ yaw: 0, pitch: 0, parallel: true }), 240, 240)), map);
	const coverage = createCoverage(kernels, size, size);
	modelTarget(kernels, bins).dab(coverage, plainDab(120, 120, 300, 1, 1), false);
	// Between bare and painted lies a ramp of several texels: the sheet is finer than the screen.
	const row: number[] = [];
	for (let x = 100; x < size / 2; x++) row.push(coverageAt(coverage, x, size / 2) / 65535);
	const last = row.findIndex((v) => v < 0.02);
	const first = row.findLastIndex((v, i) => i < last && v > 0.98);
	expect(last - first).toBeGreaterThan(4);
	for (let i = first; i < last; i++) expect((row[i] as number) - (row[i + 1] as number)).toBeLessThan(0.3);
	dropBins(kernels, bins);
});

test.each([1e-6, 1e-3, 1, 1e6, 1e12])('a model of %d units is framed, seen and painted like any other', (scale) => {
	const small = box();
	const mesh = { ...small, positions: small.positions.map((v) => v * scale) };
	const { center, radius } = meshBounds(mesh);
	for (const parallel of [true, false]) {
		const from = framing({ ...homeCamera, parallel }, center, radius, 300, 300);
		const map = buildTexelMap(mesh, () => true, 256, 256, 4);
		const bins = createBins(createView(mesh, projectionOf(from, 300, 300)), map);
		const coverage = createCoverage(kernels, 256, 256);
		modelTarget(kernels, bins).dab(coverage, plainDab(150, 150, 200, 1, 1), false);
		const full = kernels.heap.u16.subarray(coverage.at >> 1, (coverage.at >> 1) + 256 * 256);
		// Three of a box's six sides are seen from where a new model is looked at.
		const inside = [...map.faceOfTexel].filter((face) => face > 0).length;
		const taken = full.reduce((sum, v) => sum + (v > 60000 ? 1 : 0), 0);
		expect(taken / inside).toBeGreaterThan(0.45);
		dropBins(kernels, bins);
	}
});

describe('a plane drawn across a view', () => {
	const camera = fc
		.record({
			yaw: fc.integer({ min: -180, max: 180 }),
			pitch: fc.integer({ min: -80, max: 80 }),
			roll: fc.integer({ min: -60, max: 60 }),
			distance: fc.integer({ min: 2, max: 12 }),
			parallel: fc.boolean(),
		})
		.map((change): Camera => ({ ...homeCamera, target: [0.3, -0.2, 0.5], ...change }));
	const px = fc.tuple(fc.integer({ min: 0, max: 400 }), fc.integer({ min: 0, max: 300 }));

	test('shows as the line that was drawn: its places lie on it, and what lies on it stays under the mirror', () => {
		fc.assert(
			fc.property(
				camera,
				px,
				px,
				fc.array(fc.double({ min: -2, max: 2, noNaN: true }), { minLength: 3, maxLength: 3 }),
				(from, a, b, p) => {
					fc.pre(Math.hypot(a[0] - b[0], a[1] - b[1]) > 20);
					const plane = planeThrough(from, 400, 300, a, b);
					if (!plane) return false;
					const { normal, at } = plane;
					// Any place brought into the plane shows on the line, if it is before the camera.
					const off = normal[0] * (p[0] as number) + normal[1] * (p[1] as number) + normal[2] * (p[2] as number) - at;
					const on = [0, 1, 2].map((k) => (p[k] as number) - off * (normal[k] as number)) as [number, number, number];
					const { X, Y, W, nearest } = projectionOf(from, 400, 300);
					const along = (r: readonly [number, number, number, number]): number =>
						r[0] * on[0] + r[1] * on[1] + r[2] * on[2] + r[3];
					if (along(W) < nearest) return true;
					const [x, y] = [along(X) / along(W), along(Y) / along(W)];
					const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
					const beside = ((b[0] - a[0]) * (y - a[1]) - (b[1] - a[1]) * (x - a[0])) / length;
					const image = mirrorPlace(plane, on);
					return (
						Math.abs(beside) < 1e-6 * (1 + Math.hypot(x, y)) &&
						Math.hypot(...image.map((v, k) => v - (on[k] as number))) < 1e-9
					);
				},
			),
		);
		expect(planeThrough(homeCamera, 400, 300, [5, 5], [5, 5])).toBeNull();
	});

	test('cuts a box in lines that lie in it and close', () => {
		fc.assert(
			fc.property(camera, px, px, (from, a, b) => {
				fc.pre(Math.hypot(a[0] - b[0], a[1] - b[1]) > 20);
				const plane = planeThrough(from, 400, 300, a, b);
				if (!plane) return false;
				const cut = planeCut(box(), plane);
				const ends = Array.from({ length: cut.length / 3 }, (_, n) => [...cut.subarray(n * 3, n * 3 + 3)]);
				const near = (p: readonly number[], q: readonly number[]): number =>
					Math.hypot(...p.map((v, k) => v - (q[k] as number)));
				return ends.every(
					(p, n) =>
						Math.abs(plane.normal.reduce((sum, v, k) => sum + v * (p[k] as number), 0) - plane.at) < 1e-5 &&
						ends.some((q, m) => m !== n && near(p, q) < 1e-5),
				);
			}),
			{ numRuns: 60 },
		);
	});
});

test('the faces near a px are all that show there, in their order', () => {
	const meshes = [box(), ball(), tube()];
	const turned = fc.record({
		yaw: fc.integer({ min: -180, max: 180 }),
		pitch: fc.integer({ min: -89, max: 89 }),
		// So near that faces reach past the view and behind the camera.
		distance: fc.double({ min: 1.2, max: 20, noNaN: true }),
		parallel: fc.boolean(),
	});
	const px = fc.double({ min: -5, max: 205, noNaN: true });
	fc.assert(
		fc.property(
			fc.constantFrom(...meshes),
			turned,
			fc.array(fc.tuple(px, px), { minLength: 5, maxLength: 20 }),
			(mesh, change, places) => {
				const view = createView(mesh, projectionOf(camera(change), 200, 150));
				const covers = (face: number, x: number, y: number): boolean => {
					const at = [0, 1, 2].map((k) => mesh.indices[face * 3 + k] as number);
					if (at.some((v) => (view.W[v] as number) < view.projection.nearest)) return false;
					const [a, b, c] = at.map((v) => [
						(view.X[v] as number) / (view.W[v] as number),
						(view.Y[v] as number) / (view.W[v] as number),
					]) as [number[], number[], number[]];
					const side = (p: number[], q: number[]): number =>
						((q[0] as number) - (p[0] as number)) * (y - (p[1] as number)) -
						((q[1] as number) - (p[1] as number)) * (x - (p[0] as number));
					const sides = [side(a, b), side(b, c), side(c, a)];
					return sides.every((v) => v >= 0) || sides.every((v) => v <= 0);
				};
				for (const [x, y] of places) {
					const near = facesNear(view, x, y);
					if (x < 0 || y < 0 || x >= 200 || y >= 150) {
						expect(near).toBeNull();
						continue;
					}
					const list = [...(near ?? [])];
					expect(list).toEqual([...list].sort((a, b) => a - b));
					const shown = Array.from(view.front, (front, face) => (front && covers(face, x, y) ? face : -1));
					expect(shown.filter((face) => face >= 0 && !list.includes(face))).toEqual([]);
				}
			},
		),
	);
});
