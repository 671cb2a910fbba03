import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { smokerMesh } from '../../../demo/mesh/smoker.ts';
import { buildTexelMap, eachTexelOfFace, faceAt } from '../src/atlas/index.ts';
import type { LaidMesh } from '../src/mesh/index.ts';

/** A mesh of loose triangles given by UVs; positions do not matter here. */
const flat = (triangles: readonly (readonly number[])[]): LaidMesh => ({
	positions: new Float32Array(triangles.length * 9),
	uvs: new Float32Array(triangles.flat()),
	normals: null,
	indices: Uint32Array.from({ length: triangles.length * 3 }, (_, i) => i),
	parts: [{ name: 'All', firstFace: 0, faces: triangles.length }],
});

const inside = (uv: readonly number[], x: number, y: number): boolean => {
	const side = (i: number, j: number): number =>
		((uv[j * 2] as number) - (uv[i * 2] as number)) * (y - (uv[i * 2 + 1] as number)) -
		((uv[j * 2 + 1] as number) - (uv[i * 2 + 1] as number)) * (x - (uv[i * 2] as number));
	const [a, b, c] = [side(0, 1), side(1, 2), side(2, 0)];
	return (a > 1e-9 && b > 1e-9 && c > 1e-9) || (a < -1e-9 && b < -1e-9 && c < -1e-9);
};

test('a texel shows a face where its centre lies inside it', () => {
	const uv = fc
		.array(fc.double({ min: -0.2, max: 1.2, noNaN: true }), { minLength: 6, maxLength: 6 })
		.map((list) => list.map(Math.fround));
	fc.assert(
		fc.property(uv, (triangle) => {
			const [w, h] = [48, 40];
			const map = buildTexelMap(flat([triangle]), () => true, w, h, 0);
			for (let y = 0; y < h; y++)
				for (let x = 0; x < w; x++)
					if (inside(triangle, (x + 0.5) / w, (y + 0.5) / h) && faceAt(map, x, y) !== 0) return false;
			// And none outside, but for centres that lie on the edge to float precision.
			let strays = 0;
			for (let y = 0; y < h; y++)
				for (let x = 0; x < w; x++)
					if (faceAt(map, x, y) === 0 && !inside(triangle, (x + 0.5) / w, (y + 0.5) / h)) strays++;
			return strays <= 1;
		}),
		{ numRuns: 200 },
	);
});

test('faces that share an edge share no texel of a row', () => {
	const map = buildTexelMap(
		flat([
			[0.1, 0.1, 0.9, 0.2, 0.2, 0.9],
			[0.9, 0.2, 0.85, 0.95, 0.2, 0.9],
		]),
		() => true,
		128,
		128,
		0,
	);
	const seen = new Set<number>();
	for (const face of [0, 1])
		eachTexelOfFace(
			map,
			face,
			(y, x0, x1) => {
				for (let x = x0; x < x1; x++) {
					expect(seen.has(y * 128 + x)).toBe(false);
					seen.add(y * 128 + x);
				}
			},
			() => undefined,
		);
	expect(seen.size).toBeGreaterThan(5000);
});

test('every texel within the bleed of an island continues a near texel of it, and no texel beyond is in the gutter', () => {
	const [size, bleed] = [128, 6];
	const mesh = smokerMesh();
	const onCan = (face: number): boolean => face < (mesh.parts[3]?.firstFace ?? 0);
	const map = buildTexelMap(mesh, onCan, size, size, bleed);
	const gutter = new Map(Array.from(map.gutterTexel, (texel, i) => [texel, map.gutterSource[i] as number]));
	expect(gutter.size).toBe(map.gutterTexel.length);
	for (let y = 0; y < size; y++)
		for (let x = 0; x < size; x++) {
			const i = y * size + x;
			if (map.faceOfTexel[i]) {
				expect(gutter.has(i)).toBe(false);
				continue;
			}
			let nearest = Infinity;
			for (let yy = Math.max(0, y - bleed); yy <= Math.min(size - 1, y + bleed); yy++)
				for (let xx = Math.max(0, x - bleed); xx <= Math.min(size - 1, x + bleed); xx++)
					if (map.faceOfTexel[yy * size + xx]) nearest = Math.min(nearest, Math.hypot(xx - x, yy - y));
			const source = gutter.get(i);
			if (nearest <= bleed - 1) expect(source).toBeDefined();
			if (source === undefined) continue;
			expect(map.faceOfTexel[source]).toBeGreaterThan(0);
			expect(Math.hypot((source % size) - x, Math.floor(source / size) - y)).toBeLessThanOrEqual(
				Math.min(bleed, nearest + 1.01),
			);
		}
});

test('faces of other sheets are left out', () => {
	const map = buildTexelMap(flat([[0, 0, 1, 0, 0, 1]]), () => false, 32, 32, 4);
	expect(map.faceOfTexel.every((v) => v === 0)).toBe(true);
	expect(map.gutterTexel).toHaveLength(0);
});
