/** Polygons cut into triangles, and faces cut where they run over the sheet's border, against what they must cover. */
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { cutPolygon } from '../src/mesh/build.ts';
import { type LaidMesh, readObj } from '../src/mesh/index.ts';

type Point = readonly [number, number];

/** A polygon that turns in and out around a middle, and never crosses itself. */
const star = fc.array(fc.double({ min: 0.15, max: 1, noNaN: true }), { minLength: 4, maxLength: 14 }).map((radii) =>
	radii.map((radius, i): Point => {
		const angle = (2 * Math.PI * i) / radii.length;
		return [radius * Math.cos(angle), radius * Math.sin(angle)];
	}),
);
const areaOf = (ring: readonly Point[]): number =>
	ring.reduce((sum, [x, y], i) => {
		const [u, v] = ring[(i + 1) % ring.length] as Point;
		return sum + (x * v - u * y) / 2;
	}, 0);
/** A place in space: the polygon's plane may lie any way. */
const turned = ([x, y]: Point, a: number, b: number): number[] => [
	x * Math.cos(a) - y * Math.sin(a) * Math.cos(b),
	x * Math.sin(a) + y * Math.cos(a) * Math.cos(b),
	y * Math.sin(b) + 3,
];

describe('a polygon cut into triangles', () => {
	test('is covered once, all triangles run as it does, however it lies and whichever corner comes first', () => {
		fc.assert(
			fc.property(
				star,
				fc.nat(13),
				fc.boolean(),
				fc.double({ min: 0, max: 6.28, noNaN: true }),
				fc.double({ min: 0, max: 6.28, noNaN: true }),
				(polygon, first, reversed, a, b) => {
					const rolled = polygon.map((_, i) => polygon[(i + first) % polygon.length] as Point);
					const ring = reversed ? [...rolled].reverse() : rolled;
					const cut = cutPolygon(ring.map((p) => turned(p, a, b)));
					const whole = areaOf(ring);
					let sum = 0;
					for (let i = 0; i < cut.length; i += 3) {
						const area = areaOf([0, 1, 2].map((k) => ring[cut[i + k] as number] as Point));
						if (area * Math.sign(whole) < -1e-9) return false;
						sum += area;
					}
					return cut.length === (ring.length - 2) * 3 && Math.abs(sum - whole) < 1e-6;
				},
			),
			{ numRuns: process.env.LONG ? 20_000 : 400 },
		);
	});
	test('without any area it is still cut, into what it has corners for', () => {
		expect(
			cutPolygon([
				[0, 0, 0],
				[1, 0, 0],
				[2, 0, 0],
				[3, 0, 0],
			]),
		).toHaveLength(6);
		expect(
			cutPolygon([
				[1, 1, 1],
				[1, 1, 1],
				[1, 1, 1],
				[1, 1, 1],
				[1, 1, 1],
			]),
		).toHaveLength(9);
	});
});

/** The place in space of a place on the sheet, by every face that covers it. */
function placesAt(mesh: LaidMesh, u: number, v: number): number[][] {
	const out: number[][] = [];
	for (let i = 0; i < mesh.indices.length; i += 3) {
		const [a, b, c] = [0, 1, 2].map((k) => mesh.indices[i + k] as number) as [number, number, number];
		const uv = (p: number): Point => [mesh.uvs[p * 2] as number, mesh.uvs[p * 2 + 1] as number];
		const [A, B, C] = [uv(a), uv(b), uv(c)];
		const det = (B[0] - A[0]) * (C[1] - A[1]) - (C[0] - A[0]) * (B[1] - A[1]);
		if (Math.abs(det) < 1e-12) continue;
		const s = ((u - A[0]) * (C[1] - A[1]) - (C[0] - A[0]) * (v - A[1])) / det;
		const t = ((B[0] - A[0]) * (v - A[1]) - (u - A[0]) * (B[1] - A[1])) / det;
		if (s < -1e-6 || t < -1e-6 || s + t > 1 + 1e-6) continue;
		out.push(
			[0, 1, 2].map(
				(k) =>
					(mesh.positions[a * 3 + k] as number) * (1 - s - t) +
					(mesh.positions[b * 3 + k] as number) * s +
					(mesh.positions[c * 3 + k] as number) * t,
			),
		);
	}
	return out;
}

test('a face whose UVs run over the border shows, at every place of it, what a repeated sheet shows there', () => {
	const coordinate = fc.double({ min: -3, max: 3, noNaN: true });
	fc.assert(
		fc.property(
			fc.tuple(coordinate, coordinate, coordinate, coordinate, coordinate, coordinate),
			fc.array(
				fc.tuple(fc.double({ min: 0.02, max: 0.98, noNaN: true }), fc.double({ min: 0.02, max: 0.98, noNaN: true })),
				{
					minLength: 6,
					maxLength: 6,
				},
			),
			(uvs, weights) => {
				const [au, av, bu, bv, cu, cv] = uvs;
				fc.pre(Math.abs((bu - au) * (cv - av) - (cu - au) * (bv - av)) > 0.05);
				const text = `v 0 0 0\nv 2 0 0\nv 0 2 0\nvt ${au} ${av}\nvt ${bu} ${bv}\nvt ${cu} ${cv}\nf 1/1 2/2 3/3\n`;
				const read = readObj(text, 'a.obj');
				if (!read.ok) return false;
				return weights.every(([p, q]) => {
					// Within the face, off its edges.
					const [s, t] = [0.02 + 0.94 * p * (1 - q), 0.02 + 0.94 * p * q];
					const u = au + (bu - au) * s + (cu - au) * t;
					// Upwards in the file, downwards here.
					const v = 1 - (av + (bv - av) * s + (cv - av) * t);
					const wrapped: Point = [u - Math.floor(u), v - Math.floor(v)];
					// On the very border either side may have it.
					if (wrapped.some((each) => each < 1e-3 || each > 1 - 1e-3)) return true;
					return placesAt(read.mesh, ...wrapped).some(
						(place) => Math.hypot((place[0] as number) - 2 * s, (place[1] as number) - 2 * t) < 1e-3,
					);
				});
			},
		),
		{ numRuns: process.env.LONG ? 20_000 : 300 },
	);
});
