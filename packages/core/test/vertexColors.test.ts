/** Colours at vertices: read from every format alike, made a layer, and read back from what is painted. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import type { Sheet } from '../src/document/index.ts';
import { openEngine } from '../src/engine/index.ts';
import { layOut, layoutOf } from '../src/layout/index.ts';
import { type LaidMesh, readModel, writeGlb, writeObj, writePly } from '../src/mesh/index.ts';
import { ball, box, projectOf } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

/** A colour that changes slowly over the model. */
const tinted = (mesh: LaidMesh): LaidMesh => ({
	...mesh,
	colors: Float32Array.from({ length: (mesh.positions.length / 3) * 4 }, (_, i) =>
		i % 4 === 3
			? 1
			: Math.round(255 * (0.5 + 0.4 * Math.sin(1.5 * (mesh.positions[Math.floor(i / 4) * 3 + (i % 4)] as number)))) /
				255,
	),
});
/** By the place of each corner, so that the order of vertices does not matter. */
const byPlace = ({ positions, indices, colors }: LaidMesh): Map<string, number[]> =>
	new Map(
		[...indices].map((v) => [
			[...positions.subarray(v * 3, v * 3 + 3)].map((x) => Math.round(x * 1e3) || 0).join(),
			[...(colors ?? new Float32Array()).subarray(v * 4, v * 4 + 4)],
		]),
	);
const objWith = (mesh: LaidMesh, by = 1): Uint8Array => {
	let v = 0;
	const text = writeObj(mesh).replace(/^v .*$/gm, (line) => {
		const at = v++ * 4;
		return `${line} ${[...(mesh.colors ?? new Float32Array()).subarray(at, at + 3)].map((c) => (by === 1 ? c.toFixed(5) : Math.round(c * by))).join(' ')}`;
	});
	return new TextEncoder().encode(text);
};

test('OBJ, PLY and GLB give the same colours at the same places', async () => {
	const mesh = tinted(ball());
	const wanted = byPlace(mesh);
	for (const [file, bytes] of [
		['a.obj', objWith(mesh)],
		['bytes.obj', objWith(mesh, 255)],
		['a.ply', writePly(mesh)],
		['a.glb', await writeGlb(mesh)],
	] as const) {
		const read = await readModel(bytes, file);
		if (!read.ok) throw new Error(read.error.text);
		expect(read.notes.join()).toMatch(/vertex colours/);
		const found = byPlace(read.mesh);
		expect(found.size).toBe(wanted.size);
		for (const [place, color] of wanted)
			color.forEach((c, k) => void expect(found.get(place)?.[k]).toBeCloseTo(c, file === 'bytes.obj' ? 2 : 3));
	}
	const none = await readModel(writePly(ball()), 'none.ply');
	expect(none.ok && none.mesh.colors).toBeUndefined();
});

test('vertices that are split keep their colours, and so do UVs that repeat', async () => {
	const mesh = tinted(box());
	const { uvs } = layoutOf(mesh);
	const laid = layOut(mesh, { uvs: uvs.map((v, i) => v + (i % 12) * 1e-3) });
	expect(laid.positions.length).toBeGreaterThan(mesh.positions.length);
	expect(byPlace(laid)).toEqual(byPlace(mesh));
	const moved = await readModel(writePly({ ...mesh, uvs: mesh.uvs.map((v) => v + 1) }), 'moved.ply');
	if (!moved.ok) throw new Error(moved.error.text);
	for (const [place, color] of byPlace(mesh))
		color.forEach((c, k) => void expect(byPlace(moved.mesh).get(place)?.[k]).toBeCloseTo(c, 2));
});

test('a layer of them shows at each texel the mean of its face’s corners; read back they are what they were', () => {
	const mesh = tinted(ball());
	const engine = openEngine(kernels, projectOf(mesh, 512), [], new Map([['m', mesh]]));
	let n = 0;
	const before = Buffer.from(engine.composite('s').data);
	engine.vertexLayer('m', () => `v${n++}`);
	const [sheet] = engine.project.sheets as [Sheet];
	expect(sheet.layers.map(({ name }) => name)).toEqual(['Paint', 'Vertex colours']);
	const { data } = engine.composite('s');
	const map = engine.scene('m')?.mapOf(sheet);
	let bare = 0;
	map?.faceOfTexel.forEach((face, i) => {
		if (face && data[i * 4 + 3] !== 255) bare++;
	});
	for (const i of map?.gutterTexel ?? []) if (data[i * 4 + 3] !== 255) bare++;
	expect(bare).toBe(0);
	const back = byPlace(engine.vertexColored('m'));
	let [most, sum, count] = [0, 0, 0];
	for (const [place, color] of byPlace(mesh))
		color.forEach((c, k) => {
			const off = Math.abs((back.get(place)?.[k] as number) - c);
			most = Math.max(most, off);
			sum += off;
			count++;
		});
	expect(most * 255).toBeLessThan(8);
	expect((sum / count) * 255).toBeLessThan(1);
	engine.undo();
	expect(Buffer.from(engine.composite('s').data).equals(before)).toBe(true);
	engine.redo();
	expect(Buffer.from(engine.composite('s').data).equals(Buffer.from(data))).toBe(true);
	const plain = openEngine(kernels, projectOf(ball(), 64), [], new Map([['m', ball()]]));
	expect(() => plain.vertexLayer('m', () => 'x')).toThrow(/no vertex colours/);
	plain.close();
	engine.close();
});
