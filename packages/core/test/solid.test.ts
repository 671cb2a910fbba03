/** Shapes that a project can begin with. */
import { expect, test } from '@jest/globals';
import { topologyOf } from '../src/mesh/index.ts';
import { type Body, type Solid, solidKindOf, solidKinds, solidMesh } from '../src/solid/index.ts';

const bodyOf = (solid: Solid): Body => solidKindOf(solid).body(solid);

/** Volume within polygons that look outwards, by the divergence theorem. */
function volume({ points, polygons }: Body): number {
	let sum = 0;
	for (const list of polygons)
		for (let i = 1; i + 1 < list.length; i++) {
			const [a, b, c] = [list[0], list[i], list[i + 1]].map((v) => points[v as number]) as unknown as [
				number[],
				number[],
				number[],
			];
			const cross = [0, 1, 2].map(
				(k) =>
					(b[(k + 1) % 3] as number) * (c[(k + 2) % 3] as number) -
					(b[(k + 2) % 3] as number) * (c[(k + 1) % 3] as number),
			);
			sum += a.reduce((all, v, k) => all + v * (cross[k] as number), 0) / 6;
		}
	return sum;
}

/** Edges that are not met by exactly one that runs against them. */
function loose({ polygons }: Body): number {
	const ways = new Map<string, number>();
	for (const list of polygons)
		list.forEach((v, i) => {
			const key = `${v} ${list[(i + 1) % list.length]}`;
			ways.set(key, (ways.get(key) ?? 0) + 1);
		});
	return [...ways].filter(([key, n]) => n !== 1 || ways.get(key.split(' ').reverse().join(' ')) !== 1).length;
}

test.each(solidKinds.filter(({ solid }) => solid !== 'plane').map((kind) => [kind.solid, kind] as const))(
	'a %s is closed and looks outwards',
	(_solid, kind) => {
		const body = bodyOf(kind.usual as Solid);
		expect(loose(body)).toBe(0);
		expect(volume(body)).toBeGreaterThan(0);
	},
);

test('shapes are as large as they are asked for', () => {
	expect(volume(bodyOf({ solid: 'box', width: 2, height: 3, depth: 4 }))).toBeCloseTo(24, 9);
	expect(volume(bodyOf({ solid: 'plank', length: 2, width: 0.5, thick: 0.1 }))).toBeCloseTo(0.1, 9);
	// A prism over a polygon of 64 corners.
	const prism = 0.5 * 64 * Math.sin((2 * Math.PI) / 64) * 0.25 * 2;
	expect(volume(bodyOf({ solid: 'cylinder', radius: 0.5, height: 2, around: 64 }))).toBeCloseTo(prism, 9);
	expect(volume(bodyOf({ solid: 'sphere', radius: 1, around: 64 }))).toBeCloseTo((4 / 3) * Math.PI, 1);
	expect(volume(bodyOf({ solid: 'ring', radius: 1, thick: 0.2, around: 64 }))).toBeCloseTo(2 * Math.PI ** 2 * 0.04, 1);
	// A cone: the line ends on the axis.
	const cone = bodyOf({
		solid: 'lathe',
		profile: [
			[1, 0],
			[0, 3],
		],
		around: 64,
	});
	expect(loose(cone)).toBe(0);
	expect(volume(cone)).toBeCloseTo(Math.PI, 1);
});

test('each comes laid out: every face has a place, mirrored nowhere', () => {
	for (const { usual } of solidKinds) {
		const { uvs, indices, normals } = solidMesh(usual as Solid);
		expect(normals?.every(Number.isFinite)).toBe(true);
		for (const v of uvs) expect(v >= 0 && v <= 1).toBe(true);
		for (let face = 0; face < indices.length; face += 3) {
			const [a, b, c] = [0, 1, 2].map((k) => {
				const v = (indices[face + k] as number) * 2;
				return [uvs[v] as number, uvs[v + 1] as number];
			}) as [[number, number], [number, number], [number, number]];
			// Seen from outside faces run counter-clockwise; with v downwards that is an area below 0.
			expect((b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1])).toBeLessThan(0);
		}
	}
	expect(topologyOf(solidMesh({ solid: 'box', width: 1, height: 1, depth: 1 })).islands).toBe(6);
});
