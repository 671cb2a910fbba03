import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import { hiveMesh } from '../../../demo/mesh/hive.ts';
import { around, createMeshBuilder } from '../../../demo/mesh/shapes.ts';
import { smokerMesh } from '../../../demo/mesh/smoker.ts';
import {
	type LaidMesh,
	meshBounds,
	readGlb,
	readModel,
	readObj,
	topologyOf,
	writeGlb,
	writeObj,
} from '../src/mesh/index.ts';
import { watchCosts } from './oracle/costs.ts';

const tube = (): LaidMesh => {
	const builder = createMeshBuilder();
	builder.part('Tube');
	builder.grid(12, 3, (u, v) => around(u, 1, 1 - v), { x: 0.1, y: 0.1, w: 0.8, h: 0.3 });
	builder.fan(12, [0, 1, 0], (t) => around(t, 1, 1), { x: 0.1, y: 0.5, w: 0.3, h: 0.3 });
	return builder.mesh();
};

/** Positions and UVs of all corners in the order of the faces: what a mesh is, however its vertices are shared. */
const corners = (mesh: LaidMesh): number[] =>
	[...mesh.indices].flatMap((v) => [
		...mesh.positions.subarray(v * 3, v * 3 + 3),
		...mesh.uvs.subarray(v * 2, v * 2 + 2),
	]);

const read = (result: ReturnType<typeof readObj>): LaidMesh => {
	if (!result.ok) throw new Error(result.error.text);
	return result.mesh;
};

describe.each([
	['smoker', smokerMesh()],
	['hive', hiveMesh()],
	['tube', tube()],
] as const)('%s', (_name, mesh) => {
	test('comes back from OBJ and from GLB with the same faces and parts', async () => {
		for (const back of [read(readObj(writeObj(mesh), 'a.obj')), read(await readGlb(await writeGlb(mesh), 'a.glb'))]) {
			const [got, want] = [corners(back), corners(mesh)];
			expect(got).toHaveLength(want.length);
			expect(got.every((v, i) => Math.abs(v - (want[i] as number)) < 2e-6)).toBe(true);
			expect(back.parts.map((part) => [part.name, part.faces])).toEqual(
				mesh.parts.map((part) => [part.name, part.faces]),
			);
		}
	});
	test('lies within its sheet', () => {
		expect(mesh.uvs.every((v) => v >= 0 && v <= 1)).toBe(true);
	});
});

test('a tube with a lid has two islands; its upright cut and the lid’s rim are seams', () => {
	const { islands, islandOfFace, seams } = topologyOf(tube());
	expect(islands).toBe(2);
	expect(new Set(islandOfFace.slice(0, 72))).toEqual(new Set([0]));
	expect(new Set(islandOfFace.slice(72))).toEqual(new Set([1]));
	// 3 edges of the cut, 12 around the lid, 12 open at the foot.
	expect(seams.filter((seam) => seam.other !== null)).toHaveLength(15);
	expect(seams.filter((seam) => seam.other === null)).toHaveLength(12);
});

test('bounds hold every vertex', () => {
	const { center, radius } = meshBounds(tube());
	expect(center[1]).toBeCloseTo(0.5);
	expect(radius).toBeCloseTo(Math.hypot(1, 0.5), 4);
});

test('OBJ: polygons, relative indexes, groups and comments', () => {
	const text =
		'# a\no One\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\nf 1/1 2/2 3/3 4/4\ng Two\nv 0 0 1\nf -1/1 -4/3 -2/2\n';
	const mesh = read(readObj(text, 'a.obj'));
	expect(mesh.parts).toEqual([
		{ name: 'One', firstFace: 0, faces: 2 },
		{ name: 'Two', firstFace: 2, faces: 1 },
	]);
	expect(mesh.uvs[1]).toBe(1); // v upwards in the file, downwards here
	const last = mesh.indices[6] as number;
	expect([...mesh.positions.subarray(last * 3, last * 3 + 3)]).toEqual([0, 0, 1]);
});

describe('what cannot be read is told in words that name the file', () => {
	const square = 'v 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\n';
	test.each([
		['empty.obj', '', 'empty'],
		['no-faces.obj', square, 'no-faces'],
		['nan.obj', `${square.replace('v 0 0 0', 'v NaN 0 0')}f 1/1 2/2 3/3\n`, 'bad-number'],
		['gone.obj', `${square}f 1/1 2/2 9/3\n`, 'broken'],
		['prose.obj', 'once upon a time', 'unknown-format'],
		['many.obj', square + 'f 1/1 2/2 3/3\n'.repeat(200_001), 'too-many-faces'],
		['model.fbx', 'x', 'unknown-format'],
	])('%s', async (file, text, code) => {
		const result = await readModel(new TextEncoder().encode(text), file);
		expect(result).toMatchObject({ ok: false, error: { code, text: expect.stringContaining(file) } });
	});

	test('a GLB cut anywhere is refused, never thrown', async () => {
		const whole = await writeGlb(tube());
		await fc.assert(
			fc.asyncProperty(fc.integer({ min: 0, max: whole.length - 1 }), async (length) => {
				const result = await readModel(whole.slice(0, length), 'cut.glb');
				return !result.ok && result.error.text.includes('cut.glb');
			}),
			{ numRuns: 60 },
		);
	});

	test('a GLB with any byte changed is read or refused, never thrown', async () => {
		const costs = watchCosts('bytes of a GLB');
		const whole = await writeGlb(tube());
		await fc.assert(
			fc.asyncProperty(fc.nat(whole.length - 1), fc.nat(255), async (at, value) => {
				const bytes = whole.slice();
				bytes[at] = value;
				const result = await costs.of(() => readModel(bytes, 'odd.glb'));
				return result.ok || result.error.text.includes('odd.glb');
			}),
			{ numRuns: process.env.LONG ? 20_000 : 150 },
		);
		costs.judge();
	});
});
