/** Models that go out, as an independent reader has them: the same faces, where they lie on their sheets, the same colours. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels, loadPngWriter, loadWebpWriter } from '@eppu/kernels/node';
import { beforeAll, expect, test } from '@jest/globals';
import { type BufferGeometry, Color, type Mesh, type Object3D } from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js';
import { smokerMesh } from '../../../demo/mesh/smoker.ts';
import { washLayer } from '../src/document/index.ts';
import { type Engine, openEngine } from '../src/engine/index.ts';
import { type ModelOrder, textureWriter, usualModelOrder, type Writers, writeModel } from '../src/handoff/index.ts';
import type { LaidMesh } from '../src/mesh/index.ts';
import { projectOf } from './oracle/meshes.ts';

let kernels: Kernels;
let writers: Writers;
const mesh = smokerMesh();
beforeAll(async () => {
	kernels = await loadKernels();
	writers = { png: await loadPngWriter(), webp: await loadWebpWriter() };
});

const open = (): Engine =>
	openEngine(
		kernels,
		projectOf(mesh, 64, [
			washLayer('w', 'Ramp', '#000000', {
				fill: {
					fill: 'gradient',
					way: 'linear',
					from: [0, 0],
					to: [64, 64],
					colors: ['#20406a', '#e0a030'],
					fade: false,
				},
			}),
		]),
		[],
		new Map([['m', mesh]]),
	);
async function written(change: Partial<ModelOrder>): Promise<Uint8Array<ArrayBuffer>> {
	const engine = open();
	const files = await writeModel(engine, 'm', { ...usualModelOrder, ...change }, textureWriter(engine, writers));
	engine.close();
	return files[0]?.[1] as Uint8Array<ArrayBuffer>;
}

/** Corners of all faces in their order: place and UV, v downwards. */
const ours = ({ positions, uvs, indices }: LaidMesh): number[][] =>
	[...indices].map((v) => [...positions.subarray(v * 3, v * 3 + 3), ...uvs.subarray(v * 2, v * 2 + 2)]);
function theirs(geometry: BufferGeometry, flipped: boolean): number[][] {
	const [place, uv] = [geometry.getAttribute('position'), geometry.getAttribute('uv')];
	const index = geometry.getIndex();
	return Array.from({ length: index?.count ?? place.count }, (_, i) => {
		const v = index ? index.getX(i) : i;
		return [place.getX(v), place.getY(v), place.getZ(v), uv.getX(v), flipped ? 1 - uv.getY(v) : uv.getY(v)];
	});
}
const meshesIn = (root: Object3D): Mesh[] => {
	const found: Mesh[] = [];
	root.traverse((each) => {
		if ('isMesh' in each) found.push(each as Mesh);
	});
	return found;
};
const apart = (a: readonly number[][], b: readonly number[][]): number => {
	expect(a.length).toBe(b.length);
	return Math.max(...a.flatMap((corner, i) => corner.map((v, k) => Math.abs(v - (b[i]?.[k] as number)))));
};

test('GLB: the same parts and faces, where they lie on their sheet', async () => {
	const bytes = await written({ as: 'glb', textures: 'none' });
	const { scene } = await new GLTFLoader().parseAsync(bytes.buffer, '');
	const all = meshesIn(scene);
	expect(all.map(({ name }) => name.replaceAll('_', ' '))).toEqual(mesh.parts.map(({ name }) => name));
	expect(
		apart(
			all.flatMap(({ geometry }) => theirs(geometry, false)),
			ours(mesh),
		),
	).toBeLessThan(1e-5);
});

test('OBJ: the same parts and faces, with v upwards as the format has it', async () => {
	const text = new TextDecoder().decode(await written({ as: 'obj', textures: 'none' }));
	const all = meshesIn(new OBJLoader().parse(text));
	expect(all.map(({ name }) => name)).toEqual(mesh.parts.map(({ name }) => name));
	expect(
		apart(
			all.flatMap(({ geometry }) => theirs(geometry, true)),
			ours(mesh),
		),
	).toBeLessThan(1e-5);
});

test('PLY: the same faces, and at each corner the colour that the sheet has there', async () => {
	const bytes = await written({ as: 'ply', textures: 'none' });
	const geometry = new PLYLoader().parse(bytes.buffer);
	const [place, color, index] = [
		geometry.getAttribute('position'),
		geometry.getAttribute('color'),
		geometry.getIndex(),
	];
	const engine = open();
	engine.refresh(() => false);
	const corners = ours(mesh);
	expect(index?.count).toBe(corners.length);
	corners.forEach(([x, y, z, u, v], i) => {
		const at = index?.getX(i) as number;
		expect(
			Math.hypot(place.getX(at) - (x as number), place.getY(at) - (y as number), place.getZ(at) - (z as number)),
		).toBeLessThan(1e-5);
		// It reads colours into its own linear space.
		const read = new Color(color.getX(at), color.getY(at), color.getZ(at)).getHex();
		const there = engine.sample(
			's',
			Math.min(63, Math.floor((u as number) * 64)),
			Math.min(63, Math.floor((v as number) * 64)),
		);
		const off = Math.max(...[16, 8, 0].map((bits, k) => Math.abs(((read >> bits) & 255) - (there[k] as number))));
		// A corner lies on the borders of its texels, and where seams meet colours are mixed.
		expect(off).toBeLessThanOrEqual(12);
	});
	engine.close();
});
